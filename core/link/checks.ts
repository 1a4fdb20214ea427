import type { LinkedChannel, ChannelReading } from './device-link'
import type { z } from 'zod'
import type { linkStepSchema } from './device-link.schema'

export type LinkStep = z.infer<typeof linkStepSchema>
/** Common practice, no source: three steps that one tells apart. */
const levels = [25, 50, 75] as const
const speeds = [33, 66, 100] as const

/** The one for which somebody stands at the wall. */
export const wallCheck = 'link:wall'
export interface LinkCheck {
  id: string
  what: string
  step: Omit<LinkStep, 'checkId' | 'endpoint'>
}

/** What hangs on a channel: all of it, where one channel carries several points. */
export interface ChannelLoad {
  watts: number
  dimmable: boolean
}

/** What the link tries at one channel by itself, in order; then what needs somebody at the wall. */
export function linkChecks(channel: Pick<LinkedChannel, 'level' | 'speed' | 'meter'>, load: ChannelLoad): LinkCheck[] {
  const set = (id: string, what: string, on: boolean | null, level: number | null, hears = false): LinkCheck => ({
    ...{ id, what },
    step: { on, level, hears },
  })
  return [
    set('link:on', 'On over the link, and it says so', true, null),
    ...(channel.meter ? [set('link:meter', `Its meter shows about ${load.watts} W`, null, null)] : []),
    ...(channel.speed ? speeds : channel.level && load.dimmable ? levels : []).map((level) =>
      set(`link:level:${level}`, `${level} % over the link, and it says so`, null, level),
    ),
    set('link:off', 'Off over the link, and it says so', false, null),
    ...(channel.speed ? [] : [set(wallCheck, 'Pressed at the wall, and the link hears it', null, null, true)]),
  ]
}

/** A meter of a device is taken to be right within a fifth, or two watts: common practice, no source. */
const [shareOff, wattsOff] = [0.2, 2]

export interface LinkVerdict {
  pass: boolean
  /** What the device said, and how long it took. */
  said: string
}
/** @param reading null: it did not answer */
export function judgeLinkCheck(check: LinkCheck, reading: ChannelReading | null, ms: number, { watts: wanted }: ChannelLoad): LinkVerdict {
  if (!reading) return { pass: false, said: check.id === wallCheck ? 'nothing was heard of it' : 'no answer over the link' }
  const { on, level } = check.step
  if (check.id === wallCheck) return { pass: true, said: `heard after ${(ms / 1000).toFixed(1)} s` }
  if (check.id === 'link:meter') {
    if (reading.watts === null) return { pass: false, said: 'it shows no watts' }
    const shown = Math.round(reading.watts * 10) / 10
    return { pass: Math.abs(shown - wanted) <= Math.max(wattsOff, shareOff * wanted), said: `${shown} W, by its model ${wanted} W` }
  }
  if (level !== null)
    return { pass: reading.level !== null && Math.abs(reading.level - level) <= 1, said: `${reading.level ?? '–'} % after ${ms} ms` }
  return { pass: reading.on === on, said: `${reading.on ? 'on' : 'off'} after ${ms} ms` }
}
