import type { RecordDrill } from './record-drill.schema'
import { drillAnswerWords } from './words'

/** What was seen, in words. */
export const drillSaid = ({ wall, app, voice, note }: Omit<RecordDrill, 'without'>): string =>
  `wall ${drillAnswerWords[wall]}${app === 'none' ? '' : `, app ${drillAnswerWords[app]}`}${voice === 'none' ? '' : `, voice ${drillAnswerWords[voice]}`}${note ? ` (${note})` : ''}`
