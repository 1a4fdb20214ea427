import { z } from 'zod'
import { joinedDeviceSchema } from '../../link/device-link.schema'
import { idSchema } from '../../stream/command-envelope'

export const linkUnitInput = z.object({ unitId: idSchema, device: joinedDeviceSchema })
export type LinkUnit = z.infer<typeof linkUnitInput>
export const unitLinkedPayload = linkUnitInput
export type UnitLinked = LinkUnit
