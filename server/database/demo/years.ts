import { v7 as uuid } from 'uuid'
import type { DateTime } from 'luxon'
import { Chance } from '../../../core/chance'
import type { Viewer } from '../../services/access'
import { home } from './big-day'
import type { DemoCrew } from './crew'
import type { DemoHome } from './homes'

/** What is true of the models of this history, and for the page to find: how many fail at once, and how many in a year. */
export const truth = [
  { model: 'Tide switch, with neutral', share: 0.45, atOnce: 0, aYear: 0.01 },
  { model: 'Tide dimmer, heavy', share: 0.3, atOnce: 0, aYear: 0.02 },
  { model: 'Rowan dimmer, deep', share: 0.25, atOnce: 0.06, aYear: 0.4 },
] as const
const [homesInAll, days] = [84, 3 * 365]
/** Callbacks in which no device was at fault, to each home in a year. */
const otherwise = 0.12

interface Tools {
  office: Viewer
  /** Installs, tests, joins and hands over; the device of a box is of this model. */
  finish: (home: DemoHome, who: Viewer, start: DateTime, prefix: string, model: string) => Promise<DemoCrew>
  callbackVisit: (team: DemoCrew, who: Viewer, from: DateTime, callbackId: string) => Promise<string>
  model: (name: string) => string
}

/** Three years of homes before today, as crews would have written them: the same each time. Everything of it opens. */
export async function fillYears(crews: Viewer[], today: DateTime, { office, finish, callbackVisit, model }: Tools): Promise<void> {
  const chance = new Chance(1999)
  for (let index = 0; index < homesInAll; index++) {
    // The last one has been lived in for some weeks.
    const start = today.minus({ days: days - Math.floor((index * (days - 40)) / homesInAll) }).set({ hour: 9, minute: 0 })
    const place = { ...home(chance, 300 + index), address: `${70 + index} ${index % 2 ? 'Hill Road' : 'Kiln Lane'}, Port Sallow` }
    const who = crews[index % crews.length]!
    const is = truth[Number(chance.weighed(Object.fromEntries(truth.map(({ share }, at) => [at, share]))))]!
    const team = await finish(place, who, start, `Y${index}`, model(is.model))
    for (const [, box] of place.boxes) {
      let since = start
      for (;;) {
        const after = chance.is(is.atOnce) ? chance.int(2) : Math.ceil((-Math.log(1 - chance.next()) / is.aYear) * 365)
        const dies = since.plus({ days: after }).set({ hour: 18 })
        if (dies.plus({ days: 3 }) >= today) break
        since = dies.plus({ days: 2 }).set({ hour: 10, minute: 0 })
        const visitAt = since
        await replaceDead(team, box, office, today, dies, since, (callbackId) => callbackVisit(team, who, visitAt, callbackId))
      }
    }
    if (chance.is(otherwise * 3 * (1 - index / homesInAll))) {
      const at = start.plus({ days: 5 + chance.int(300) }).set({ hour: 11 })
      if (at.plus({ days: 3 }) < today) await mendByTelephone(team, office, at)
    }
  }
}

const said = { offlineInApp: true, wallSwitchFlipped: true, routerChanged: false, breakerTripped: false }
async function replaceDead(
  team: DemoCrew,
  box: string,
  office: Viewer,
  today: DateTime,
  dies: DateTime,
  at: DateTime,
  visit: (callbackId: string) => Promise<string>,
): Promise<void> {
  const boxId = await team.boxId(box)
  const unit = Object.values((await team.state()).job.units).find((one) => one.boxId === boxId && !one.removedAt)!
  const callbackId = uuid()
  team.at(dies.toJSDate())
  await team.job(
    {
      type: 'openCallback',
      callbackId,
      unitId: unit.id,
      what: 'Dead since this evening; the breaker is on.',
      since: dies.toISODate()!,
      ...said,
    },
    office,
  )
  const visitId = await visit(callbackId)
  team.at(at.toJSDate())
  await team.job({ type: 'arrive', visitId })
  await team.job({
    ...{ type: 'diagnoseCallback', callbackId, causeKind: 'device', cause: 'Feed and load as recorded; its relay does not pull in.' },
    ...{ remedy: 'replace', causeId: null, confirmedBy: 'live at its line terminal, nothing at its load', payer: 'maker' },
  })
  await team.replace(box, 1, callbackId, unit.id)
  await team.job({ type: 'closeCallback', callbackId, resolution: 'Replaced, joined and tested.' })
  await team.job({ type: 'finishVisit', visitId })
  // Sent within the week, and settled in a month or so; what came out last is on its way.
  const returned = { type: 'followReturn' as const, serial: unit.serial, goes: 'return' as const, reference: `R ${unit.serial}` }
  const nothing = { dueOn: null, cleared: null, outcome: null, creditCents: null, note: '' }
  const [sent, settled] = [at.plus({ days: 5 }), at.plus({ days: 31 })]
  if (sent >= today) return
  team.at(sent.toJSDate())
  await team.job({ ...returned, ...nothing, stage: 'sent', dueOn: at.plus({ days: 35 }).toISODate()!, cleared: 'dead' }, office)
  if (settled >= today) return
  team.at(settled.toJSDate())
  await team.job({ ...returned, ...nothing, stage: 'settled', outcome: 'replaced' }, office)
}
async function mendByTelephone(team: DemoCrew, office: Viewer, at: DateTime): Promise<void> {
  const unit = Object.values((await team.state()).job.units).find(({ removedAt }) => !removedAt)!
  const callbackId = uuid()
  team.at(at.toJSDate())
  const what = 'The app does not reach it since the new router.'
  await team.job(
    {
      type: 'openCallback',
      callbackId,
      unitId: unit.id,
      what,
      since: at.toISODate()!,
      ...said,
      wallSwitchFlipped: false,
      routerChanged: true,
    },
    office,
  )
  const how = 'The old name and password were given to the new router.'
  await team.job(
    { type: 'solveCallback', callbackId, causeId: 'routerChanged', how, callBackOn: at.plus({ days: 2 }).toISODate()! },
    office,
  )
  team.at(at.plus({ days: 2 }).toJSDate())
  await team.job({ type: 'hearBack', callbackId, works: true, said: 'Everything has answered since.' }, office)
}
