import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible'
import type { Sequelize } from 'sequelize'
import { database } from '../database'
import { ApiError } from './errors'

/** How many tries, for how long, minutes, and what is said of more. Counted in the database: all servers count together. */
const kinds = {
  login: {
    tries: 8,
    minutes: 15,
    code: 'tooManyTries',
    message: 'Too many wrong passwords. Wait 15 minutes, or have a lead set a new one.',
  },
  address: { tries: 40, minutes: 15, code: 'tooManyTries', message: 'Too many wrong passwords from here. Wait 15 minutes.' },
  /** One on which this person was logged in before. */
  device: { tries: 10, minutes: 15, code: 'tooManyTries', message: 'Too many wrong passwords on this device. Wait 15 minutes.' },
  /** From all devices that nobody knows, together: many addresses that guess at once. */
  everybody: {
    tries: 600,
    minutes: 15,
    code: 'tooManyTries',
    message: 'Somebody is trying many passwords. From a device that you have used before you get in; else wait 15 minutes.',
  },
  setUpCode: { tries: 20, minutes: 15, code: 'tooManyTries', message: 'Too many wrong codes. Wait 15 minutes, or start the server again.' },
  linkCode: { tries: 20, minutes: 15, code: 'tooManyTries', message: 'Too many wrong codes from here. Wait 15 minutes.' },
  homePin: { tries: 5, minutes: 60, code: 'pinLocked', message: 'Too many wrong PINs. Wait an hour, or ask the company for a new page.' },
  /** Stops nobody: what a person is told of, wrong passwords of a day. */
  passwordDay: { tries: 1_000_000, minutes: 1440, code: 'tooManyTries', message: 'Too many wrong passwords.' },
  // Each step rests longer: five, then ten, then twenty wrong ones.
  pin: { tries: 5, minutes: 5, code: 'pinLocked', message: 'Too many wrong PINs. Wait 5 minutes.' },
  pinHour: { tries: 10, minutes: 60, code: 'pinLocked', message: 'Too many wrong PINs. Wait an hour, or work on your own device.' },
  pinDay: {
    tries: 20,
    minutes: 1440,
    code: 'pinLocked',
    message: 'Too many wrong PINs today. Set another PIN, or work on your own device.',
  },
}
type Kind = keyof typeof kinds

const limiters = new WeakMap<Sequelize, Record<Kind, RateLimiterMySQL>>()
function limiterOf(kind: Kind): RateLimiterMySQL {
  const { sequelize } = database()
  let all = limiters.get(sequelize)
  if (!all) {
    const make = (keyPrefix: Kind) =>
      new RateLimiterMySQL({
        storeClient: sequelize,
        storeType: 'sequelize',
        dbName: sequelize.getDatabaseName(),
        tableName: 'throttle',
        tableCreated: true,
        keyPrefix,
        points: kinds[keyPrefix].tries,
        duration: kinds[keyPrefix].minutes * 60,
      })
    limiters.set(
      sequelize,
      (all = {
        ...{ login: make('login'), address: make('address'), linkCode: make('linkCode'), setUpCode: make('setUpCode') },
        ...{ pin: make('pin'), pinHour: make('pinHour'), pinDay: make('pinDay'), homePin: make('homePin') },
        ...{ device: make('device'), everybody: make('everybody'), passwordDay: make('passwordDay') },
      }),
    )
  }
  return all[kind]
}

/** Counted before a secret is looked at: many guesses at once get no more tries than one after the other. Throws ApiError 429. */
export async function countTry(kind: Kind, who: string): Promise<void> {
  try {
    await limiterOf(kind).consume(who)
  } catch (error) {
    if (error instanceof RateLimiterRes) throw new ApiError(429, kinds[kind].code, kinds[kind].message)
    throw error
  }
}
/** It was the right secret: this try was none, of those that several people share. */
export const wasRight = async (kind: Kind, who: string): Promise<void> => void (await limiterOf(kind).reward(who))
/** How many tries are counted now. */
export const triesOf = async (kind: Kind, who: string): Promise<number> => (await limiterOf(kind).get(who))?.consumedPoints ?? 0
/** The right secret, or a new one: earlier tries do not count any more. */
export const forgetTries = async (kind: Kind, who: string): Promise<void> => void (await limiterOf(kind).delete(who))
