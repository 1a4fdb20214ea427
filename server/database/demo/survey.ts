import { v7 as uuid } from 'uuid'
import { usualCables } from '../../../core/survey'
import type { DemoCrew } from './crew'

/** What the crew saw of the Net Loft before it opened anything: two boxes looked into, the networks, the rooms for the signal. */
export async function surveyLoft(loft: DemoCrew): Promise<void> {
  const { site } = await loft.state()
  const roomId = (name: string) => Object.values(site.rooms).find((room) => room.name === name)!.id
  const [two, three] = usualCables.na120.map(({ cable }) => cable) as [
    (typeof usualCables)['na120'][number]['cable'],
    (typeof usualCables)['na120'][number]['cable'],
  ]
  const old = (gang: number, is: 'switch' | 'threeWay' | 'dimmer') => ({ gang, is, holds: 'screw' as const, onWhen: null, keep: null })
  await loft.site({
    type: 'noteBox',
    boxId: await loft.boxId('nook arch'),
    noted: {
      looked: 'inside',
      neutral: 'here',
      ground: 'conductor',
      cables: [two, two, three],
      old: [old(1, 'switch'), old(2, 'dimmer')],
      finish: 'ivory',
    },
  })
  await loft.site({
    type: 'noteBox',
    boxId: await loft.boxId('porch'),
    noted: {
      looked: 'inside',
      neutral: 'none',
      ground: 'none',
      cables: [usualCables.na120.at(-1)!.cable],
      old: [old(1, 'switch')],
      faults: [
        { is: 'gasketBackwards', then: 'offered' },
        { is: 'paintSealed', then: 'declined' },
      ],
    },
  })
  const plain = { ownName: false, isolated: false, holds: null, holdsMost: null }
  await loft.site({
    type: 'recordNetwork',
    networkId: uuid(),
    kind: 'router',
    name: 'netloft',
    bands: ['2.4', '5'],
    channel: 6,
    ...plain,
    holds: 21,
    holdsMost: 32,
    note: 'behind the chart table',
    roomId: roomId('Reading nook'),
  })
  await loft.site({
    type: 'recordNetwork',
    networkId: uuid(),
    kind: 'hub',
    name: 'Breakwater hub',
    bands: [],
    channel: null,
    ...plain,
    holds: 12,
    holdsMost: 50,
    note: '',
    roomId: roomId('Reading nook'),
  })
  const plan = (name: string, x: number, y: number, width: number, depth: number, floor = 0) =>
    loft.site({ type: 'placeRoom', roomId: roomId(name), place: { kind: 'plan', floor, x, y, width, depth } })
  await plan('Reading nook', 0, 0, 4, 3.5)
  await plan('Stair', 4, 0, 2.5, 6.5)
  await plan('Net store', 6.5, 0, 5, 6.5)
  await plan('Mud room', 11.5, 3, 3, 3.5)
  const read = async (box: string, dbm: number | null, bars: number | null) =>
    loft.site({
      type: 'readSignal',
      readingId: uuid(),
      boxId: await loft.boxId(box),
      roomId: null,
      networkId: null,
      band: '2.4',
      dbm,
      bars,
      roundTripMs: null,
    })
  await read('store door', -66, null)
  await read('porch', null, 1)
}
