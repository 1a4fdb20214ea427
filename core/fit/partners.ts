import type { DeviceModel } from './device-schema'

type Partner = Pick<DeviceModel, 'name' | 'kind' | 'family' | 'terminals' | 'schemes'>
/** It has an input that a wired companion can signal. */
export const listens = ({ kind, terminals }: Partner): boolean =>
  kind !== 'companion' && (terminals.includes('sense') || (terminals.includes('traveler1') && !terminals.includes('traveler2')))
const sameFamily = (a: Partner, b: Partner) => a.family === '' || b.family === '' || a.family === b.family
/** May these two share a light: a companion and what it belongs to, or two devices of one family? */
export function arePartners(a: Partner, b: Partner): boolean {
  if (!sameFamily(a, b)) return false
  const [companion, main] = a.kind === 'companion' ? [a, b] : b.kind === 'companion' ? [b, a] : [null, null]
  if (!companion || !main || main.kind === 'companion') return companion === null
  // One without a wire speaks over the air.
  return !companion.terminals.includes('sense') || listens(main)
}
/** Of the catalogue those that a companion, or a device beside another, goes with. */
export const partnersOf = <M extends Partner>(model: Partner, catalogue: M[]): M[] =>
  catalogue.filter(
    (one) => one.kind !== model.kind && one.schemes.some((scheme) => model.schemes.includes(scheme)) && arePartners(model, one),
  )
