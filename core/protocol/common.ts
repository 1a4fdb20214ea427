import { z } from 'zod'

export const idParam = z.object({ id: z.uuid() })
export const branchQuery = z.object({ branchId: z.uuid().optional() })
/** An instant as it goes over the line. */
/** Why somebody reads a code where they have no visit. */
export const whyCode = z.object({ reason: z.string().trim().min(4).max(200).optional() })
export const instant = z.iso.datetime({ offset: true })
/** What was made or changed. */
export const made = z.strictObject({ id: z.uuid() })
export const done = z.strictObject({ ok: z.literal(true) })
/** A secret, read on purpose: the reading is logged. */
export const secret = z.strictObject({ code: z.string() })
