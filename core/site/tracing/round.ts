/** What a person in the rooms saw of a box's light in one round; part: of several lamps some are on and some off. */
export type Seen = 'on' | 'off' | 'part'
/** One round: these breakers were open together, everything else as it was, and this was seen. */
export interface TracingRound {
  open: string[]
  seen: Record<string, Seen>
}
