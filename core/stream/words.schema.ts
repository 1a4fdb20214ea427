import { z } from 'zod'

/** What people call a thing: on one line. */
export const name = z
  .string()
  .trim()
  .overwrite((said) => said.replace(/\s+/g, ' '))
  .min(1)
  .max(80)
/** What people say of it. */
export const note = z.string().trim().max(500)
