import type { Part } from '../../core/fit'

const na: Part['schemes'] = ['na120']
const iec: Part['schemes'] = ['iec230']
const both: Part['schemes'] = ['na120', 'iec230']

/** Invented boxes, plates, connectors and lamps to begin with. A company edits them or adds its own. */
export function starterParts(newId: () => string): Part[] {
  const part = <K extends Part['kind']>(kind: K, maker: string, name: string, schemes: Part['schemes'], rest: object) =>
    ({ id: newId(), kind, maker, name, schemes, ...rest }) as Part
  const wall = (gangs: number, volumeIn3: number, name: string) =>
    part('box', 'Sail Court', name, na, { gangs, volumeIn3, depthMm: null, material: 'plastic', internalClamps: 0 })
  // Volumes of metal boxes: NEC table 314.16(A).
  const metal = (volumeIn3: number, name: string) =>
    part('box', 'Sail Court', name, na, { gangs: 1, volumeIn3, depthMm: null, material: 'metal', internalClamps: 1 })
  const back = (depthMm: number, name: string) =>
    part('box', 'Corran & Fell', name, iec, { gangs: 1, volumeIn3: null, depthMm, material: 'plastic', internalClamps: 0 })
  const plate = (maker: string, schemes: Part['schemes'], gangs: number, of: string, finish: string) =>
    part(
      'plate',
      maker,
      `${of === 'standard' ? 'Quay plate' : of === 'metal' ? 'Quay plate, metal' : 'Quay plate, mid-size'}, ${gangs}-gang, ${finish}`,
      schemes,
      { gangs, plate: of, finish },
    )
  const connector = (name: string, kind: string, most: number, bodyIn3: number, stranded: boolean) =>
    part('connector', 'Penwick Row', name, both, { connector: kind, most, bodyIn3, stranded })
  const lamp = (technology: 'led' | 'filament', watts: number, dimmable: boolean, powerFactor: number | null) =>
    part(
      'lamp',
      'Harrow Reach',
      `${technology === 'led' ? 'Ember' : 'Ember filament'} ${watts} W${dimmable ? '' : ', not dimmable'}`,
      both,
      { technology, watts, dimmable, powerFactor },
    )
  return [
    wall(1, 18, 'Old work box, 1-gang'),
    wall(1, 20.3, 'New work box, 1-gang'),
    wall(1, 22.5, 'Deep box, 1-gang'),
    wall(2, 32, 'Old work box, 2-gang'),
    wall(2, 34, 'New work box, 2-gang'),
    wall(2, 42, 'Deep box, 2-gang'),
    wall(3, 44, 'Old work box, 3-gang'),
    wall(3, 54, 'New work box, 3-gang'),
    wall(3, 60, 'Deep box, 3-gang'),
    wall(4, 68, 'Old work box, 4-gang'),
    wall(4, 74.5, 'New work box, 4-gang'),
    metal(12.5, 'Device box 3 × 2 × 2½, metal'),
    metal(14, 'Device box 3 × 2 × 2¾, metal'),
    metal(18, 'Device box 3 × 2 × 3½, metal'),
    metal(21, 'Box 4 in square × 1½, metal'),
    metal(30.3, 'Box 4 in square × 2⅛, metal'),
    back(16, 'Back box, shallow'),
    back(25, 'Back box'),
    back(35, 'Back box, deep'),
    back(47, 'Back box, extra deep'),
    ...[1, 2, 3, 4].map((gangs) => plate('Quay Works', na, gangs, 'standard', 'white')),
    ...[1, 2].map((gangs) => plate('Quay Works', na, gangs, 'midSize', 'white')),
    ...[1, 2].map((gangs) => plate('Quay Works', na, gangs, 'metal', 'steel')),
    ...[1, 2, 3].map((gangs) => plate('Quay Works', iec, gangs, 'standard', 'white')),
    connector('Twist-on, red', 'twist', 4, 0.25, true),
    connector('Lever, three', 'lever', 3, 0.2, true),
    connector('Lever, five', 'lever', 5, 0.32, true),
    connector('Push-in, four', 'pushIn', 4, 0.15, false),
    connector('Strip, screw', 'screw', 2, 0.3, true),
    lamp('led', 5, true, 0.6),
    lamp('led', 7, true, 0.6),
    lamp('led', 9, true, 0.7),
    lamp('led', 12, true, 0.9),
    lamp('led', 9, false, 0.5),
    lamp('filament', 25, true, 1),
    lamp('filament', 40, true, 1),
    lamp('filament', 60, true, 1),
    lamp('filament', 100, true, 1),
  ]
}
