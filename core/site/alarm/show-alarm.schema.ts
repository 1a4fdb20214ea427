import { z } from 'zod'

export const showAlarmInput = z.object({})
export type ShowAlarm = z.infer<typeof showAlarmInput>

export const alarmShownPayload = z.object({})
export type AlarmShown = z.infer<typeof alarmShownPayload>
