import { DateTime } from 'luxon'
import type { Explained, Switching } from '../automation/log'
import { counted } from '../units/counted'
import type { HomeFact } from './belief'
import { causes } from './causes'
import type { OfThisHome } from './facts'
import type { Said } from './numbers'

/** What a log of switchings says of a device that was called about. */
export interface OfItsLog {
  facts: HomeFact[]
  /** Questions that it answers: they are not asked, and what was answered to them counts no more. */
  answers: readonly string[]
  /** Where it ends, seconds since 1970. */
  to: number
}

const day = 86_400
const all = (kind: (typeof causes)[number]['kind'], weight: number) =>
  Object.fromEntries(causes.flatMap((one) => (one.kind === kind ? [[one.id, weight]] : [])))
/** Two that switch it against each other within so many seconds fight. A choice of ours, no source. */
const quarrel = 10 * 60
const handsOnly = 'log-hands'
/** A log of fewer days does not speak against what happens now and then. A choice of ours, no source. */
const enoughDays = 3
/** So often a day it is out of reach, and its way to the network is bad. Common practice, no source. */
const oftenAway = 0.5

const quarrels = (switchings: readonly Switching[]): number =>
  switchings.filter(({ at, on, by }, index) => {
    const before = switchings[index - 1]
    return (
      before !== undefined &&
      by.is === 'routine' &&
      before.by.is === 'routine' &&
      before.by.routine !== by.routine &&
      before.on !== on &&
      at - before.at <= quarrel
    )
  }).length

/**
 * How likelier or rarer a log makes causes: common practice, no source.
 * @param explained what switched the device, as far as can be told
 * @param routineNames of the home’s routines, in its order
 */
export function ofItsLog({ switchings, unreachable, from, to }: Explained, routineNames: readonly string[]): OfItsLog {
  const facts: HomeFact[] = []
  const answers: string[] = []
  const days = (to - from) / day
  const add = (id: string, words: string, weighs: HomeFact['weighs']) => facts.push({ id: `log-${id}`, words: `the log: ${words}`, weighs })
  const times = (count: number) => counted(count, 'time')
  const by = (...kinds: Switching['by']['is'][]) => switchings.filter((one) => kinds.includes(one.by.is))

  const clockwork = by('clock', 'sun')
  if (clockwork.length) {
    add('clock', `${times(clockwork.length)} at its hour, by nothing on record`, { scheduleWrong: 8, clockWrong: 2, rulesFight: 1.5 })
    answers.push('clock', 'always')
  }
  const company = by('with')
  if (company.length)
    add('with', `${times(company.length)} together with another device, by nothing on record`, {
      namesClash: 3,
      scheduleWrong: 2,
      rulesFight: 2,
    })
  const fights = quarrels(switchings)
  if (fights) add('fight', `${times(fights)} two routines switched it against each other`, { rulesFight: 8 })
  const ours = new Set(by('routine').flatMap(({ by: what }) => (what.is === 'routine' ? [routineNames[what.routine] ?? ''] : [])))
  if (ours.size && !fights)
    add(
      'routine',
      `${times(by('routine').length)} by ${[...ours]
        .slice(0, 2)
        .map((name) => `“${name}”`)
        .join(' and ')}`,
      { scheduleWrong: 3 },
    )
  const returned = by('supply')
  if (returned.length)
    add('supply', `${times(returned.length)} it switched when it came back into reach`, {
      powerOnState: 6,
      looseJoint: 1.5,
      supplyWorn: 1.5,
    })
  // What the log says of who it was may be a hand or not.
  if (days >= enoughDays && switchings.length && by('alone').length === switchings.length)
    add('hands', 'nothing but hands switched it', { ...all('configuration', 0.4), scheduleWrong: 0.1, rulesFight: 0.1, clockWrong: 0.15 })

  const { times: away } = unreachable
  if (away && away >= oftenAway * Math.max(1, days))
    add('away', `${times(away)} out of reach in ${counted(Math.max(1, Math.round(days)), 'day')}`, {
      ...{ weakSignal: 5, meshHole: 3, routerStuck: 2, supplyWorn: 2.5, looseJoint: 2.5 },
      ...{ routerChanged: 0.3, wasReset: 0.3, hubOff: 0.6 },
    })
  else if (!away && days >= enoughDays) add('reached', 'never out of reach', { ...all('network', 0.15), supplyWorn: 0.3, looseJoint: 0.6 })
  return { facts, answers, to }
}

/** A log that ends before the trouble began says nothing of it. @param since the day, as YYYY-MM-DD, in the home’s zone */
export const goesOnUntil = ({ to }: Pick<OfItsLog, 'to'>, since: string, zone: string): boolean =>
  to >= DateTime.fromISO(since, { zone }).startOf('day').toSeconds()

/**
 * A call with what a log says: what the log answers is neither asked nor counted twice, and that only hands switched a device speaks
 * against nothing where something failed to switch it.
 */
export function withItsLog(home: OfThisHome, log: OfItsLog | null, said: Said): { home: OfThisHome; said: Said } {
  if (!log) return { home, said }
  const facts = said.symptoms.includes('missed') ? log.facts.filter(({ id }) => id !== handsOnly) : log.facts
  return {
    home: { ...home, facts: [...home.facts, ...facts], notHere: new Set([...home.notHere, ...log.answers]) },
    said: { ...said, answers: said.answers.filter(({ question }) => !log.answers.includes(question)) },
  }
}
