import mysql2, { type Connection } from 'mysql2'
import { Sequelize } from 'sequelize'

export interface DatabaseSettings {
  host: string
  port: number
  user: string
  password: string
  name: string
}

/** Reads where the database is from the environment. Throws when something is missing. */
export function databaseSettings(env: NodeJS.ProcessEnv = process.env): DatabaseSettings {
  const read = (key: string) => {
    const value = env[key]
    if (!value) throw new Error(`${key} is not set. Start with "npm start", which sets it.`)
    return value
  }
  return {
    host: env.CIRCUITRY_DB_HOST ?? '127.0.0.1',
    port: Number(read('CIRCUITRY_DB_PORT')),
    user: read('CIRCUITRY_DB_USER'),
    password: read('CIRCUITRY_DB_PASSWORD'),
    name: read('CIRCUITRY_DB_NAME'),
  }
}

const readCommitted = (connection: Connection): Promise<void> =>
  new Promise((resolve, reject) =>
    connection.query('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED', (error) => (error ? reject(error) : resolve())),
  )

export function connect(settings: DatabaseSettings): Sequelize {
  return new Sequelize(settings.name, settings.user, settings.password, {
    host: settings.host,
    port: settings.port,
    // The mariadb dialect needs a driver that is too old; MariaDB speaks the same protocol to this one.
    dialect: 'mysql',
    // Named here, or the build would not see that the server needs it.
    dialectModule: mysql2,
    logging: false,
    timezone: '+00:00',
    // Said once to each connection, not before each transaction.
    hooks: { afterConnect: (connection) => readCommitted(connection as unknown as Connection) },
    pool: { max: 16, min: 1, acquire: 20_000, idle: 30_000 },
    retry: { max: 0 },
    define: { underscored: true, timestamps: false, charset: 'utf8mb4' },
  })
}
