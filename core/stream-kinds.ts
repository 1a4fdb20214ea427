/** The kinds of record there are. Energy belongs to the site; work belongs to the job. */
export const streamKinds = ['site', 'job'] as const
export type StreamKind = (typeof streamKinds)[number]
