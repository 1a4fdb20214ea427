import { listed } from '../../units/counted'
import { clockOf, dateIn, type Region } from '../../units/region'
import type { visitKinds } from '../../job/words'

/** Why a customer is written to. */
export const letterPurposes = ['booked', 'reminder', 'onTheWay', 'late', 'windows'] as const
export type LetterPurpose = (typeof letterPurposes)[number]
/** From a visit, or when a home is handed over. */
export const messagePurposes = [...letterPurposes, 'home'] as const
export type MessagePurpose = (typeof messagePurposes)[number]
export const purposeWords: Record<MessagePurpose, string> = {
  booked: 'what was booked',
  reminder: 'a reminder',
  onTheWay: 'the crew is on its way',
  late: 'the crew comes later',
  windows: 'other times to choose from',
  home: 'the page of their home',
}

export const letterSubjects: Record<MessagePurpose, string> = {
  booked: 'Our visit is booked',
  reminder: 'We come soon',
  onTheWay: 'We are on our way',
  late: 'We come later than we said',
  windows: 'Another time for our visit',
  home: 'The page of your home',
}

export interface LetterFacts {
  company: string
  kind: (typeof visitKinds)[number]
  /** First names of who comes. */
  crew: string[]
  /** Instants as ISO text. */
  windowFrom: string
  windowTo: string
  expectedAt: string | null
  /** The page of this visit. */
  link: string
  /** What customers call, or empty. */
  telephone: string
  region: Region
}

const visitNouns: Record<LetterFacts['kind'], string> = { survey: 'to look at your home', install: 'to install', callback: 'to mend' }

/** A short letter, to be read before it is sent. Plain text. */
export function letterOf(purpose: LetterPurpose, facts: LetterFacts): string {
  const { crew, company, region, windowFrom, windowTo, expectedAt, link, telephone } = facts
  const day = dateIn(dayIn(windowFrom, region), region.locale)
  const between = `between ${clockOf(windowFrom, region)} and ${clockOf(windowTo, region)}`
  const who = listed(crew) || 'Our crew'
  const about = expectedAt ? `, about ${clockOf(expectedAt, region)}` : ''
  const [come, are] = crew.length > 1 ? ['come', 'are'] : ['comes', 'is']
  const call = telephone ? ` Or call ${telephone}.` : ''
  const said: Record<LetterPurpose, string> = {
    booked: `${who} ${come} on ${day} ${between} ${visitNouns[facts.kind]}. What to prepare, and how to reach us: ${link}`,
    reminder: `${who} ${come} on ${day} ${between} ${visitNouns[facts.kind]}. Please tick what is ready: ${link}${call}`,
    onTheWay: `${who} ${are} on the way to you${about}. ${link}`,
    late: `We are sorry: ${who} ${come} later than we said, now ${between}${about}. If that does not suit you, say so here: ${link}${call}`,
    windows: `We ask you for another time for our visit. Please choose one that suits you: ${link}${call}`,
  }
  return `${said[purpose]} – ${company}`
}

/** The letter that brings a household the page of its home. The PIN is not in it: link and PIN never go the same way. */
export const homeLetterOf = ({
  company,
  telephone,
  link,
  hasPin,
}: {
  company: string
  telephone: string
  link: string
  hasPin: boolean
}): string =>
  `What is where in your home, and what to do when something is wrong: ${link}${hasPin ? ' Its setup codes open with the PIN you chose.' : ''}${telephone ? ` Questions: ${telephone}.` : ''} – ${company}`

/** The day of an instant there, YYYY-MM-DD. */
export function dayIn(iso: string, { zone }: Region): string {
  const parts = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' })
  return parts.format(Date.parse(iso))
}
