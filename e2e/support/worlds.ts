import { practiceBoxes, type PracticeBox } from '../../core/wiring/practice'

/** A practice box by its name: its hidden wiring stands in for a home. */
export const practice = (id: string) => practiceBoxes.find((box) => box.id === id)!
/** The first switch of the two-feed box, as if it were a box by itself. */
export function oneSwitch(): PracticeBox {
  const both = practice('sail-room')
  const gone = /^(4\.|rack|[G-L]\.)/
  return {
    ...both,
    found: {
      ...both.found,
      circuits: ['2'],
      cables: both.found.cables.slice(0, 2),
      splices: [
        ['B', 'E'],
        ['C', 'F'],
      ],
      oldSwitches: both.found.oldSwitches.slice(0, 1),
    },
    devices: both.devices.slice(0, 1),
    hidden: {
      ...both.hidden,
      joins: both.hidden.joins.map((ends) => ends.filter((end) => !gone.test(end))).filter((ends) => ends.length > 1),
      parts: both.hidden.parts.filter(({ id }) => !gone.test(id)),
      lights: both.hidden.lights.slice(0, 1),
    },
  }
}
/** What hangs on the 3-way of “Back stairs”, letters as its cables are written down. */
export const backStairsTerminals = { A: 'common', D: 'traveler 1', E: 'traveler 2' }
