import { z } from 'zod'
import { consequence } from '../parts.schema'

export const tagOverriddenPayload = z.object({
  tagId: z.string(),
  reason: z.string(),
  leftBuildingVerified: z.literal(true),
  breakerId: z.string(),
  ownerId: z.string(),
  ownerName: z.string(),
  ...consequence,
})
export type TagOverridden = z.infer<typeof tagOverriddenPayload>

export const grantOverriddenPayload = z.object({
  grantId: z.string(),
  reason: z.string(),
  leftBuildingVerified: z.literal(true),
  breakerId: z.string(),
  ownerName: z.string(),
  ...consequence,
})
export type GrantOverridden = z.infer<typeof grantOverriddenPayload>
