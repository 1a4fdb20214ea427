/** How an entry is told, rendered on reading and never stored: a sentence without its subject, and how loud it is. */
export type Tone = 'plain' | 'alarm' | 'good'
export type Sentence = string | { what: string; tone: Tone }

export const alarm = (what: string): Sentence => ({ what, tone: 'alarm' })
export const good = (what: string): Sentence => ({ what, tone: 'good' })
export const quoted = (text: string) => (text ? ` – ${text}` : '')
