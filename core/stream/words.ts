/** The words of streams, without the schemas: screens load these alone. */
export * from '../stream-kinds'
/** Roles a person can have in a company. */
export const personRoles = ['dispatcher', 'lead', 'technician', 'apprentice'] as const
export type PersonRole = (typeof personRoles)[number]
