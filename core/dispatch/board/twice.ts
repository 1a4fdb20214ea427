export interface Booking {
  id: string
  personIds: readonly string[]
  startsAt: string
  endsAt: string
}
/** Who would be in two places at once, and where. */
export function bookedTwice(bookings: readonly Booking[]): { personId: string; first: string; second: string }[] {
  const byPerson = new Map<string, Booking[]>()
  for (const booking of bookings) for (const id of new Set(booking.personIds)) byPerson.set(id, [...(byPerson.get(id) ?? []), booking])
  return [...byPerson].flatMap(([personId, own]) => {
    const sorted = [...own].sort((a, b) => Date.parse(a.startsAt) - Date.parse(b.startsAt))
    const found: { personId: string; first: string; second: string }[] = []
    // A long visit may reach over several that follow.
    let last: Booking | null = null
    for (const next of sorted) {
      if (last && Date.parse(next.startsAt) < Date.parse(last.endsAt)) found.push({ personId, first: last.id, second: next.id })
      if (!last || Date.parse(next.endsAt) > Date.parse(last.endsAt)) last = next
    }
    return found
  })
}
