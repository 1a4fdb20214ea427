import { counted } from '../../units/counted'
import { farSwitchesOf, switchesOfFixture } from '../../site/home/far-switches'
import { sameName } from '../../site/names'
import { refuse } from '../../stream/envelope'
import { jobCommand, jobEvent } from '../define'
import { withFixture } from '../lifts'
import { placesOf } from '../progress'
import type { LightPoint } from '../parts.schema'
import { forgetWiringAt, installedAt } from './places'
import type { PointRecorded, RecordPoint } from './record-point.schema'

export const recordPoint = jobCommand('recordPoint', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, { point }: RecordPoint, context) {
    const { site } = context
    const was = job.points[point.id] ?? null
    if (!site.roomOrder.includes(point.roomId))
      return refuse('noSuchRoom', `${point.name} is in a room that is not on record.`, 'Pick its room.')
    const twin = job.pointOrder.some((id) => {
      const other = job.points[id]!
      return id !== point.id && other.roomId === point.roomId && sameName(other.name, point.name)
    })
    if (twin) return refuse('nameTaken', `There is a point “${point.name}” in this room already.`, 'Give this one its own name.')
    for (const control of point.controls) {
      const box = site.boxes[control.boxId]
      if (!box || box.retired)
        return refuse('noSuchBox', `${point.name} is switched from a box that is not on record.`, 'Record the box first.')
      if (control.gang > box.gangs) return refuse('noSuchGang', `${box.name} has ${counted(box.gangs, 'gang')}, not ${control.gang}.`)
    }
    if (new Set(point.controls.map(({ boxId, gang }) => `${boxId}/${gang}`)).size !== point.controls.length)
      return refuse('sameGangTwice', 'One gang is named twice.')
    const fixture = point.fixtureBoxId ? site.boxes[point.fixtureBoxId] : undefined
    // What hung there before may be corrected also when its box has left the record.
    if (
      point.fixtureBoxId &&
      point.fixtureBoxId !== was?.fixtureBoxId &&
      (!fixture || fixture.retired || site.surveys[fixture.id]?.kind !== 'fixture')
    )
      return refuse(
        'noFixture',
        `${point.name} hangs on a box that is not recorded as one at a fixture.`,
        'Record the box at the fixture first.',
      )
    const kept = was && installedAt(job, was)
    if (kept && !placesOf(point).some(({ boxId, gang }) => boxId === kept.boxId && gang === kept.gang))
      return refuse(
        'unitInstalled',
        `A device of ${was.name} is in ${site.boxes[kept.boxId]?.name ?? 'its box'} already.`,
        'Keep that location, or replace the device through a callback.',
      )
    const switchedFrom = point.controls.map(({ boxId }) => boxId)
    // Switched from several boxes: each is read dead in all positions of the others.
    return {
      ok: true,
      events: [pointRecorded({ point, was })],
      siteEvents: [...farSwitchesOf(site, switchedFrom), ...(fixture ? switchesOfFixture(site, fixture, switchedFrom) : [])],
    }
  },
  label: ({ point }) => `point: ${point.name}`,
})

export const pointRecorded = jobEvent('pointRecorded', {
  rows: true,
  material: true,
  lifts: [withFixture],
  evolve(job, { point, was }: PointRecorded) {
    job.points[point.id] = point
    if (!job.pointOrder.includes(point.id)) job.pointOrder.push(point.id)
    const places = (one: LightPoint | null) => (one ? placesOf(one) : []).map(({ boxId, gang }) => `${boxId}/${gang}`).sort()
    if (JSON.stringify(places(was)) !== JSON.stringify(places(point)))
      forgetWiringAt(job, [...(was ? placesOf(was) : []), ...placesOf(point)])
    for (const { boxId } of placesOf(point)) if (!job.boxIds.includes(boxId)) job.boxIds = [...job.boxIds, boxId]
    // What no longer switches it is not proven or planned for it any more.
    for (const [boxId, work] of Object.entries(job.boxes))
      for (const [gang, device] of Object.entries(work.devices))
        if (device.pointIds.includes(point.id) && !placesOf(point).some((one) => one.boxId === boxId && one.gang === Number(gang)))
          device.pointIds = device.pointIds.filter((id) => id !== point.id)
  },
  say({ point, was }, { box, site }) {
    const { technology, lamps, wattsEach } = point.load
    const from = point.controls.map(({ boxId, gang }) => `${box(boxId)} gang ${gang}`).join(' and ')
    const what = `${point.name} (${site.rooms[point.roomId]?.name ?? 'no room'}): ${lamps} × ${wattsEach} W ${technology}${point.mustRun ? ', must run' : ''}, from ${from}${point.fixtureBoxId ? `, its fixture at ${box(point.fixtureBoxId)}` : ''}`
    return was === null ? `added the point ${what}` : `corrected the point ${was.name}: ${what}`
  },
})
