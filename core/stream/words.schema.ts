import { z } from 'zod'

/** What people call a thing. */
export const name = z.string().trim().min(1).max(80)
/** What people say of it. */
export const note = z.string().trim().max(500)
