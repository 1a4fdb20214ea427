import { z } from 'zod'
import { idSchema } from '../../stream/command-envelope'

export const reserveAddressInput = z.object({
  /** A device of this job, or a hub of the home’s networks. */
  deviceId: idSchema,
  /** Of its radio, as its label or the router has it: six pairs of hexadecimal digits. */
  mac: z
    .string()
    .trim()
    .transform((typed) => typed.toLowerCase().replaceAll('-', ':'))
    .pipe(z.string().regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/, 'A hardware address has six pairs of digits: 3c:5a:b4:00:12:ef.')),
  /** Empty: taken back. */
  address: z.union([z.literal(''), z.ipv4('An address has four numbers: 192.168.1.40.')]),
})
export type ReserveAddress = z.infer<typeof reserveAddressInput>
export const addressReservedPayload = z.object({ deviceId: idSchema, mac: z.string(), address: z.string() })
export type AddressReserved = z.infer<typeof addressReservedPayload>
