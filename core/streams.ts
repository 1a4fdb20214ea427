import type { StreamKind } from './stream-kinds'
import { jobStream } from './job/stream'
import { siteStream } from './site/stream'

/** Every kind of record there is. A new one is named in `stream-kinds.ts` and added here. */
export const streams = { site: siteStream, job: jobStream } satisfies Record<StreamKind, unknown>
export type Streams = typeof streams
export type StateOf<K extends keyof Streams> = ReturnType<Streams[K]['empty']>
