export type Channel = 'sms' | 'mail'
export interface Letter {
  /** The same id twice is one letter. */
  id: string
  channel: Channel
  to: string
  subject: string
  body: string
}
/** What the service says: taken, refused for good, or not to be reached now. */
export type Sending = { is: 'sent'; reference: string } | { is: 'refused'; reason: string } | { is: 'later'; reason: string }

/** Where letters to customers go out. */
export interface Messages {
  send(letter: Letter): Promise<Sending>
}
