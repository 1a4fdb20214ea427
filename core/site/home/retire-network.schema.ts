import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const retireNetworkInput = z.object({ networkId: idSchema })
export type RetireNetwork = z.infer<typeof retireNetworkInput>

export const networkRetiredPayload = retireNetworkInput.extend({ name: z.string() })
export type NetworkRetired = z.infer<typeof networkRetiredPayload>
