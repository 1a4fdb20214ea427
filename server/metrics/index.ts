import { statfs } from 'node:fs/promises'
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client'

/**
 * What a server measures of itself, for whoever watches it (text format of Prometheus). Names of people, homes and companies are in
 * none of it: routes are as contracts name them.
 */
export const measured = new Registry()
const registers = [measured]

/** Where whoever watches this server asks; 0: nobody does. */
export const metricsPort = (): number => Number(process.env.CIRCUITRY_METRICS_PORT ?? '') || 0

const requestSeconds = new Histogram({
  name: 'circuitry_request_seconds',
  help: 'How long requests to the API took until they were answered, by method, route and status. 499: whoever asked had gone.',
  labelNames: ['method', 'route', 'status'],
  // Choices of ours, no source: a tap is answered in 0.1, a paper in 1, and who waits 10 looks for the reason.
  buckets: [0.005, 0.02, 0.05, 0.1, 0.3, 1, 3, 10, 30],
  registers,
})
const outcomes = new Counter({
  name: 'circuitry_commands_total',
  help: 'Commands by what became of them: accepted, refused, or not written for trouble.',
  labelNames: ['outcome'],
  registers,
})
const troubles = new Counter({
  name: 'circuitry_database_trouble_total',
  help: 'Requests that were answered 503 since the database was away, locked, read-only or full.',
  labelNames: ['is'],
  registers,
})

export const sawRequest = (method: string, route: string, status: number, ms: number): void =>
  requestSeconds.observe({ method, route, status }, ms / 1000)
export const sawCommand = (outcome: 'accepted' | 'refused' | 'failed'): void => outcomes.inc({ outcome })
export const sawTrouble = (is: string): void => troubles.inc({ is })

/** A number that is looked at when somebody asks for it. @param read null: it cannot be told just now, and is left out */
export function measure(name: string, help: string, read: () => number | null | Promise<number | null>): void {
  const gauge = new Gauge({
    ...{ name, help, registers },
    async collect() {
      const value = await Promise.resolve()
        .then(read)
        .catch(() => null)
      if (value === null) this.reset()
      else this.set(value)
    },
  })
  gauge.reset()
}

/** The process itself: memory, processor, and how late its one thread is. */
export const measureProcess = (): void => collectDefaultMetrics({ register: measured, prefix: 'circuitry_' })

export const freeBytes = async (): Promise<number> => {
  const { bavail, bsize } = await statfs(process.cwd())
  return bavail * bsize
}
