import type { DeviceModel } from '../../fit/device-schema'

/** What one looks for in a carton before it leaves the shop. Common practice, no source. */
export const cartonParts = ['screws', 'leads', 'plate', 'codeCard'] as const
export type CartonPart = (typeof cartonParts)[number]
/** A module sits behind the old switch: it has no plate and no screws of its own. */
export const cartonPartsOf = ({ gangsWide, setupCode }: Pick<DeviceModel, 'gangsWide' | 'setupCode'>): CartonPart[] =>
  cartonParts.filter((part) => (part === 'codeCard' ? setupCode !== 'none' : part === 'leads' || gangsWide > 0))
export const cartonWords: Record<CartonPart, string> = {
  screws: 'screws',
  leads: 'leads and what belongs to them',
  plate: 'plate of its row',
  codeCard: 'code card, the same code as on the device',
}
export const shopResults = ['none', 'passed', 'failed'] as const
export type ShopResult = (typeof shopResults)[number]
