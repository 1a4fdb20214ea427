import { z } from 'zod'
import { wishSchema } from '../../plan/household.schema'
import { idSchema } from '../../stream/command-envelope'

/** What the household wants of one point; all as nobody wished takes it back. */
export const wishPointInput = z.object({ pointId: idSchema, wish: wishSchema })
export type WishPoint = z.infer<typeof wishPointInput>

export const pointWishedPayload = wishPointInput
export type PointWished = z.infer<typeof pointWishedPayload>
