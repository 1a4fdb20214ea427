import { z } from 'zod'

/** What people type about companies and people. */
export const name = z.string().trim().min(1).max(120)
export const password = z.string().min(10, 'A password has at least 10 characters.').max(200)
export const login = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._-]{1,59}$/, 'A login is lower-case letters, digits, dots and dashes.')
export const initials = z
  .string()
  .trim()
  .toUpperCase()
  .regex(/^\p{Lu}{2,3}$/u, 'Initials are two or three letters.')
export const timezone = z
  .string()
  .max(60)
  .refine((zone) => Intl.supportedValuesOf('timeZone').includes(zone) || zone === 'UTC', 'This is not a time zone.')
