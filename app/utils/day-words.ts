import type { Needs, Proposal } from '../../core/dispatch'
import type { Tried } from '~/workers/day'
import { dayWord, type Region } from './time'

const rounded = (minutes: number) => Math.max(1, Math.round(minutes))
export const minutesWords = (minutes: number): string =>
  minutes < 90 ? `${rounded(minutes)} min` : `${Math.round((minutes / 60) * 10) / 10} h`

/** Why nobody goes there, and what would help. */
export function leftOutWords({ why, ...rest }: Proposal['leftOut'][number]['why'], crewName: (crew: number) => string): string {
  switch (why) {
    case 'licence':
      return 'Nobody with a licence works that day.'
    case 'skills':
      return 'Nobody who works that day can do it.'
    case 'people':
      return 'It needs more people than any crew has.'
    case 'pinned':
      return 'It stays with people who do not work that day.'
    case 'late': {
      const { crew, seconds } = rest as { crew: number; seconds: number }
      return `The first who could come is ${crewName(crew)}, ${minutesWords(seconds / 60)} after the window.`
    }
    case 'dear': {
      const { crew } = rest as { crew: number }
      return `${crewName(crew)} could go, but others would come late or far out of their way for it.`
    }
    case 'parts':
      return `Parts are not here: ${(rest as { lacks: string }).lacks}.`
    case 'full':
      return 'No crew has so much time left that day.'
  }
}

/** What a crew lacks for a visit. */
export const lackWords = ({ people, skills }: Needs): string =>
  [...(people ? [`${counted(people, 'person more', 'people more')}`] : []), ...skills.map((skill) => `somebody for ${skill}`)].join(', ')
/** Whom a visit takes. */
export const needsWords = ({ people, skills }: Needs): string =>
  [...(people ? [counted(people, 'person', 'people')] : []), ...skills].join(', ')

export const sentenceOf = (words: string): string => `${words[0]!.toUpperCase()}${words.slice(1)}`
/** A way to plan the day in a sentence. */
export function wayWords({ changes, leftOut, promisesBroken, travel, late }: Proposal): string {
  const real = changes.filter(({ quiet }) => !quiet)
  const placed = real.filter(({ was }) => !was).length
  const moved = real.length - placed
  const parts = [
    ...(placed ? [`places ${placed} of ${placed + leftOut.length}`] : []),
    ...(moved ? [`moves ${counted(moved, 'visit')}`] : []),
  ]
  if (!parts.length) return 'Changes nothing.'
  const road = travel.after - travel.before
  const sooner = late.before - late.after
  const told = [
    ...(Math.abs(road) >= 1 ? [`${minutesWords(Math.abs(road))} ${road < 0 ? 'less' : 'more'} on the road`] : []),
    ...(Math.abs(sooner) >= 1 ? [`${minutesWords(Math.abs(sooner))} ${sooner > 0 ? 'less' : 'more'} late`] : []),
  ]
  const promise = promisesBroken
    ? `${promisesBroken === 1 ? 'One promise' : `${promisesBroken} promises`} would have to be made anew by telephone.`
    : 'Every promise that held before holds.'
  return `${sentenceOf(parts.join(' and '))}${told.length ? `: ${told.join(', ')}` : ''}. ${promise}`
}

/** A mark on a bracket from this share of days on; from the second on it is as likely as not. */
export const [maybeLate, oftenLate] = [0.2, 0.5]
export const lateWords = (share: number) => `late on ${Math.round(share * 10)} of 10 such days`

/** What a move breaks. */
export const breakWords: Record<Tried['breaks'][number], string> = {
  licence: 'nobody there has a licence',
  people: 'too few people would go',
  skills: 'nobody who would go can do all of it',
  pastLatest: 'the day would end past what is allowed',
  overtime: 'the crew would work overtime',
  tied: 'its people have things left open there',
  twice: 'somebody or a van would be booked twice',
  away: 'somebody who is to go is away then',
}

/** The day by which somebody is to have looked at a callback. @param was it has passed */
export const seenWords = (by: string, was: boolean, region: Region): string => `${was ? 'was ' : ''}to be seen by ${dayWord(by, region)}`
