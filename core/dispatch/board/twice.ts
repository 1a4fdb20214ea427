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

/** The van of who leads, else of the first who drives one. */
export const vanOf = (personIds: readonly string[], people: readonly { id: string; vanId: string | null }[]): string | null =>
  personIds.flatMap((id) => people.find((one) => one.id === id)?.vanId ?? [])[0] ?? null

/** Vans that are booked to two homes at once: somebody may have been given one after their visits were. */
export function vansTwice(
  bookings: readonly (Booking & { siteId: string })[],
  people: readonly { id: string; vanId: string | null }[],
): { vanId: string; first: string; second: string }[] {
  const siteOf = new Map(bookings.map(({ id, siteId }) => [id, siteId]))
  const inVans = bookings.flatMap((booking) => {
    const van = vanOf(booking.personIds, people)
    return van ? [{ ...booking, personIds: [van] }] : []
  })
  return bookedTwice(inVans)
    .filter(({ first, second }) => siteOf.get(first) !== siteOf.get(second))
    .map(({ personId: vanId, first, second }) => ({ vanId, first, second }))
}
