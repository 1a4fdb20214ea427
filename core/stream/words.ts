/** The words of streams, without the schemas: screens load these alone. */
/** The two kinds of stream. Energy belongs to the site; work belongs to the job. */
export const streamKinds = ['site', 'job'] as const
export type StreamKind = (typeof streamKinds)[number]
/** Roles a person can have in a company. */
export const personRoles = ['dispatcher', 'lead', 'technician', 'apprentice'] as const
export type PersonRole = (typeof personRoles)[number]
