import { z } from 'zod'
import { conductorRoles, roleMethods } from '../../connect/steps'
import { idSchema } from '../../stream/command-envelope'
import { letter } from '../../units/letter'

export const establishRoleInput = z.object({
  boxId: idSchema,
  letter,
  role: z.enum(conductorRoles),
  method: z.enum(roleMethods),
  /** Measured while live: what was read, V. A line against the ground in both positions of its switch; a neutral from a line and to the ground. */
  volts: z.array(z.number().min(0).max(1000)).max(2).default([]),
  /** By continuity: what was read, ohms. */
  ohms: z.number().min(0).max(1e9).nullable().default(null),
})
export type EstablishRole = z.infer<typeof establishRoleInput>

export const roleEstablishedPayload = establishRoleInput.extend({
  inDoubt: z.boolean(),
})
export type RoleEstablished = z.infer<typeof roleEstablishedPayload>
