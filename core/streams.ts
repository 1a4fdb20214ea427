import { jobStream } from './job/stream'
import { siteStream } from './site/stream'

/** Every kind of record there is. A new one is added here and nowhere else. */
export const streams = { site: siteStream, job: jobStream }
export type Streams = typeof streams
export type StateOf<K extends keyof Streams> = ReturnType<Streams[K]['empty']>
