export type CommandRooms = typeof import('~/rooms')

/** The rooms of commands, once they are here. A page shows the record without them. */
export const roomsHere = shallowRef<CommandRooms | null>(null)
let loading: Promise<CommandRooms> | null = null

/** @returns rejects where they can be had neither from this device nor from the network; asked again at the next use */
export function loadRooms(): Promise<CommandRooms> {
  loading ??= import('~/rooms').then((rooms) => (roomsHere.value = rooms))
  loading.catch(() => (loading = null))
  return loading
}
