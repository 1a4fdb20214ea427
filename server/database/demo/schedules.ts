import { v7 as uuid } from 'uuid'
import type { Routine } from '../../../core/automation'
import type { DemoCrew } from './crew'

/** What the Net Loft is to do by itself: one of it puts a light out over whoever mends nets late, and one needs the internet. */
export async function automateLoft(loft: DemoCrew): Promise<void> {
  const { job, site } = await loft.state()
  const point = (name: string) => Object.values(job.points).find((one) => one.name === name)!.id
  const [ceiling, strip] = [point('Store ceiling'), point('Bench strip')]
  const store = Object.values(site.rooms).find(({ name }) => name === 'Net store')!.id
  const eye = uuid()
  await loft.job({ type: 'setSensor', sensor: { id: eye, name: 'Store eye', kind: 'motion', roomId: store } })
  const everyDay = [1, 2, 3, 4, 5, 6, 7]
  const same = { runs: 'hub' as const, paused: false, modes: [] }
  const routines: Routine[] = [
    {
      ...{
        ...same,
        id: uuid(),
        name: 'Bench by evening',
        kind: 'pair',
        deviceIds: [strip],
        days: everyDay,
        date: null,
        level: 40,
        runs: 'cloud',
      },
      ...{ on: { at: 'sunset', offset: -15 }, off: { at: 'clock', minute: 22 * 60 + 30 } },
    },
    {
      ...{ ...same, id: uuid(), name: 'Store closes', kind: 'rule', only: [] },
      when: [{ is: 'time', moment: { at: 'clock', minute: 21 * 60 }, days: everyDay, date: null }],
      then: [{ do: 'off', deviceId: ceiling, afterSeconds: 0 }],
    },
    {
      ...{ ...same, id: uuid(), name: 'Bedtime', kind: 'rule', only: [] },
      when: [{ is: 'household', does: 'goesToBed' }],
      then: [
        { do: 'off', deviceId: ceiling, afterSeconds: 0 },
        { do: 'off', deviceId: strip, afterSeconds: 0 },
      ],
    },
  ]
  for (const routine of routines) await loft.job({ type: 'setRoutine', routine })
}
