import { z } from 'zod'
import { alertChecks } from '../../automation/words'
import { deviceIdSchema } from '../../automation/model.schema'

export const checkAlertInput = z.object({
  deviceId: deviceIdSchema,
  check: z.enum(alertChecks),
  result: z.enum(['pass', 'fail']),
  note: z.string().trim().max(200).default(''),
})
export type CheckAlert = z.infer<typeof checkAlertInput>

export const alertCheckedPayload = checkAlertInput
export type AlertChecked = z.infer<typeof alertCheckedPayload>
