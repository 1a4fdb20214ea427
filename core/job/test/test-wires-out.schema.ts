import type { z } from 'zod'
import { pointTestedPayload, testPointInput } from './test-point.schema'

export const testWiresOutInput = testPointInput
export type TestWiresOut = z.infer<typeof testWiresOutInput>

export const pointTestedWiresOutPayload = pointTestedPayload.omit({ measured: true })
export type PointTestedWiresOut = z.infer<typeof pointTestedWiresOutPayload>
