import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'
import { reason } from '../survey.schema'

export const retirePanelInput = z.object({ panelId: idSchema, reason })
export type RetirePanel = z.infer<typeof retirePanelInput>

export const panelRetiredPayload = retirePanelInput.extend({ name: z.string() })
export type PanelRetired = z.infer<typeof panelRetiredPayload>
