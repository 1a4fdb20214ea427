import { z } from 'zod'

export const idParam = z.object({ id: z.uuid() })
export const branchQuery = z.object({ branchId: z.uuid().optional() })
