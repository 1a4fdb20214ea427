import { counted } from '../../units/counted'
import { clockOfDay, type LocaleId } from '../../units/region'
import type { AutomatedHome } from '../home'
import type { Explained, SwitchedBy } from './explain'

export interface SwitchGroup {
  words: string
  count: number
  /** Seconds since 1970, the newest first. */
  times: number[]
  /** Nothing on record does this. */
  strange: boolean
}
const sunWords = (event: 'sunrise' | 'sunset', offset: number) =>
  Math.abs(offset) < 2 ? `at ${event}` : `${counted(Math.abs(offset), 'minute')} ${offset < 0 ? 'before' : 'after'} ${event}`

function words(
  by: SwitchedBy,
  on: boolean,
  { routines }: Pick<AutomatedHome, 'routines'>,
  locale: LocaleId,
): { words: string; strange: boolean } {
  switch (by.is) {
    case 'routine':
      return { words: `${on ? 'on' : 'off'} by “${routines[by.routine]!.name}”`, strange: false }
    case 'itself':
      return { words: `${on ? 'on' : 'off'} by itself after ${counted(by.minutes, 'minute')}, as it is set`, strange: false }
    case 'supply':
      return { words: `${on ? 'on' : 'off'} when it could be reached again: the supply, or its network, had gone`, strange: true }
    case 'with':
      return { words: `${on ? 'on' : 'off'} together with ${by.device}, by nothing on record`, strange: true }
    case 'said':
      return { words: `${on ? 'on' : 'off'} by ${by.by}, as the log says`, strange: false }
    case 'clock':
      return { words: `${on ? 'on' : 'off'} at about ${clockOfDay(by.minute, locale)}, day after day, by nothing on record`, strange: true }
    case 'sun':
      return { words: `${on ? 'on' : 'off'} ${sunWords(by.event, by.offset)}, day after day, by nothing on record`, strange: true }
    case 'alone':
      return { words: `${on ? 'on' : 'off'} by a hand, as far as can be told`, strange: false }
  }
}

/** What switched a device, each with how often, the most frequent first. @param locale how whoever reads writes a time of day */
export function switchGroups({ switchings }: Explained, home: Pick<AutomatedHome, 'routines'>, locale: LocaleId): SwitchGroup[] {
  const groups = new Map<string, SwitchGroup>()
  for (const { at, on, by } of switchings) {
    const said = words(by, on, home, locale)
    const known = groups.get(said.words)
    if (known) {
      known.count++
      known.times.unshift(at)
    } else groups.set(said.words, { ...said, count: 1, times: [at] })
  }
  return [...groups.values()].sort((a, b) => b.count - a.count)
}

/** One sentence: what is strange first. */
export function switchSentence(explained: Explained, groups: readonly SwitchGroup[], device: string): string {
  const days = Math.max(1, Math.round((explained.to - explained.from) / 86_400))
  const all = `${device}: ${counted(explained.switchings.length, 'switching')} in ${counted(days, 'day')}.`
  const strange = groups.filter((group) => group.strange)
  if (!strange.length) return `${all} Nothing switched it that is not on record, or a hand.`
  return `${all} ${strange
    .slice(0, 2)
    .map((group) => `${counted(group.count, 'time', 'times')} ${group.words}`)
    .join('; ')}. Look for another app, hub or account that switches it.`
}
