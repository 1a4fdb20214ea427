import type { StreamKind } from '../../core/stream'
import { givesUpTypes } from '../../core/site/stream'
import { streams } from '../../core/streams'

/** What commands and entries do, each in its room. A large part of the program: see `utils/rooms.ts` for who loads it. */
export { foldUnsent, forbiddenOn } from './fold-unsent'
export { givesUpTypes, streams }

/** What a kept entry is called in the list of what waits. */
export function commandLabel(stream: StreamKind, { type, ...given }: { type: string } & Record<string, unknown>): string {
  return streams[stream].commands.get(type)?.rules.label?.(given as never) ?? type.replace(/([A-Z])/g, ' $1').toLowerCase()
}
