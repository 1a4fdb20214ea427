import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import { v7 as uuid } from 'uuid'
import { letterOf } from '../../../core/dispatch'
import type { InstrumentKind } from '../../../core/site'
import type { PersonRole } from '../../../core/stream'
import { branchSettingsSchema, regionOf } from '../../../core/units'
import { database } from '../index'
import { viewerOf, type Viewer } from '../../services/access'
import { rulesOf } from '../../services/branch-rules'
import { stockUp } from '../../services/branches'
import { makeLink } from '../../services/device-links'
import { deliveries, readContact, sendMessage } from '../../services/messages'
import { setUp } from '../../services/setup'
import { openJob } from '../../services/intake'
import { hashPassword } from '../../services/secrets'
import { visitsWithCrew } from '../../services/visits'
import { DemoCrew, fullConductors, multiWayConductors, usualConductors, usualConductorsIec } from './crew'
import { fillDay } from './big-day'
import { fillYears } from './years'
import { homes, jobFileOf, type DemoHome } from './homes'
import { stockVans } from './stock'
import { automateLoft } from './schedules'
import { surveyLoft } from './survey'

/** All demo people share it; the demo is for looking, on loopback. */
export const demoPassword = 'tide-and-lantern'
/** Of everybody, for a mate's device. */
export const demoPin = '7341'

/** The demo’s day is a working day whenever it is started. */
const everyDay = [1, 2, 3, 4, 5, 6, 7]
/** A zone without changes of the clock for each full hour from Greenwich, from 11 h behind to 12 h ahead. */
const zonesByHour = [
  'Pacific/Pago_Pago',
  'Pacific/Honolulu',
  'Pacific/Gambier',
  'Pacific/Pitcairn',
  'America/Phoenix',
  'America/Regina',
  'America/Panama',
  'America/Puerto_Rico',
  'America/Bahia',
  'America/Noronha',
  'Atlantic/Cape_Verde',
  'Africa/Abidjan',
  'Africa/Algiers',
  'Africa/Maputo',
  'Africa/Nairobi',
  'Asia/Dubai',
  'Asia/Tashkent',
  'Asia/Thimphu',
  'Asia/Bangkok',
  'Asia/Singapore',
  'Asia/Tokyo',
  'Australia/Brisbane',
  'Pacific/Guadalcanal',
  'Pacific/Tarawa',
]
/** The demo's day is at mid-morning whenever it is started: a zone where it is between ten and eleven now. */
export function morningZone(now: Date): string {
  const ahead = 10 - now.getUTCHours()
  return zonesByHour[(ahead + 11 + 24) % 24]!
}

/**
 * Fills an empty database with the demo. Every record is made by the commands a crew would give.
 * @param years with three years of homes before today
 */
export async function seedDemo(now: Date, { years = false } = {}): Promise<void> {
  const { models } = database()
  const zone = morningZone(now)
  const lead = await setUp({
    company: 'Wick & Latch Home Controls',
    branch: 'Port Sallow',
    schemeId: 'na120',
    timezone: zone,
    person: { name: 'Odo Reed', initials: 'OR', login: 'odo.reed', password: demoPassword, licensed: true },
  })
  const { companyId, branchId: portSallow } = lead
  const marramQuay = uuid()
  await models.branches.create({
    id: marramQuay,
    companyId,
    name: 'Marram Quay',
    schemeId: 'iec230',
    timezone: zone,
    settings: branchSettingsSchema.parse({
      connectionOrder: 'groundLoadLineNeutral',
      money: { hourlyCents: 6800, travelCents: 3500, taxes: [{ id: 'usual', name: 'VAT', basisPoints: 2000 }] },
      pairingSchool: 'platformFirst',
      day: { storeAddress: '12 Capstan Street, Marram Quay', telephone: '555 0180', workdays: everyDay },
      connectors: [{ name: 'Lever, five', holds: { '1.5 mm²': 5, '2.5 mm²': 5, '4 mm²': 3 } }],
    }),
  })
  await stockUp(companyId, marramQuay, 'iec230')
  await models.branches.update(
    {
      settings: branchSettingsSchema.parse({
        connectors: [
          { name: 'Twist, small', holds: { '18 AWG': 4, '16 AWG': 4, '14 AWG': 3 } },
          { name: 'Twist, large', holds: { '14 AWG': 5, '12 AWG': 4, '10 AWG': 3 } },
          { name: 'Lever, five', holds: { '14 AWG': 5, '12 AWG': 5 } },
        ],
        day: { storeAddress: '20 Ropewalk, Port Sallow', telephone: '555 0170', workdays: everyDay },
      }),
    },
    { where: { id: portSallow } },
  )
  const skills: Record<string, string[]> = {
    BA: ['motors', 'high ladders'],
    KI: ['networks'],
    AB: ['high ladders'],
    FH: ['motors'],
    GT: ['networks'],
    SV: ['motors', 'networks'],
  }
  const passwordHash = await hashPassword(demoPassword)
  const pinHash = await hashPassword(demoPin)
  const person = async (name: string, initials: string, role: PersonRole, licensed: boolean, branchId: string): Promise<Viewer> =>
    viewerOf(
      await models.people.create({
        id: uuid(),
        companyId,
        branchId,
        login: name.toLowerCase().replace(' ', '.'),
        name,
        initials,
        role,
        licensed,
        active: true,
        passwordHash,
        sessionEpoch: 0,
        pinHash,
        vanId: null,
        skills: skills[initials] ?? [],
      }),
    )
  const odo = await viewerOf(lead)
  await models.people.update({ pinHash, skills: ['networks'] }, { where: { id: odo.personId } })
  // The link that npm start brings along changes this code for its pass.
  const { CIRCUITRY_LINK_CODE: linkCode } = process.env
  if (linkCode) await makeLink(odo, { id: uuid(), name: 'Stand-ins of the demo' }, linkCode)
  const lena = await person('Lena Moss', 'LM', 'dispatcher', false, portSallow)
  const bram = await person('Bram Ash', 'BA', 'technician', true, portSallow)
  const kit = await person('Kit Ivers', 'KI', 'technician', true, portSallow)
  const pip = await person('Pip Tarn', 'PT', 'apprentice', false, portSallow)
  const sefa = await person('Sefa Vale', 'SV', 'technician', true, marramQuay)

  // Eight more crews of Port Sallow.
  const more: Viewer[][] = []
  for (const [name, initials, role, licensed, beside] of [
    ['Ada Brook', 'AB', 'technician', true, 'Jun Pell'],
    ['Cato Fenn', 'CF', 'technician', true, null],
    ['Dilys Marsh', 'DM', 'technician', true, null],
    ['Emrys Stone', 'ES', 'technician', true, 'Wil Gale'],
    ['Fay Holt', 'FH', 'technician', true, null],
    ['Gus Tolley', 'GT', 'technician', true, null],
    ['Hana Weir', 'HW', 'technician', true, 'Nan Ferris'],
    ['Ike Dunmore', 'ID', 'technician', true, null],
    ['Joss Ryle', 'JR', 'technician', true, null],
    ['Lew Harker', 'LH', 'technician', true, null],
  ] as const) {
    const who = await person(name, initials, role, licensed, portSallow)
    const initialsOf = (full: string) =>
      full
        .split(' ')
        .map(([letter]) => letter)
        .join('')
    more.push(beside ? [who, await person(beside, initialsOf(beside), 'apprentice', false, portSallow)] : [who])
  }

  const vans = await stockVans(lena, portSallow, ['Van of Bram', 'Van of Odo', 'Van of Kit'], now)
  const [vanOfSefa] = await stockVans(lena, marramQuay, ['Van of Sefa'], now)
  for (const [who, vanId] of [
    [bram, vans[0]],
    [odo, vans[1]],
    [kit, vans[2]],
    [sefa, vanOfSefa],
  ] as const)
    await models.people.update({ vanId }, { where: { id: who.personId } })

  const tester = async (name: string, serial: string, branchId: string, kind: InstrumentKind, days: number) => {
    const id = uuid()
    await models.instruments.create({
      id,
      companyId,
      branchId,
      name,
      serial,
      kind,
      calibrationDue: DateTime.fromJSDate(now).plus({ days }).toISODate()!,
      active: true,
      lowestStepVolts: kind === 'twoPole' ? 12 : null,
      outOfService: false,
      failedWhy: '',
      provedGoodAt: null,
      serviceNote: '',
    })
    return id
  }
  const lantern = await tester('Lantern two-range tester', 'LT-2207', portSallow, 'both', 160)
  await tester('Lantern two-range tester', 'LT-2209', portSallow, 'both', 41)
  await tester('Old pocket meter', 'PM-0031', portSallow, 'high', -12)
  await tester('Two-pole detector', 'TD-0412', marramQuay, 'twoPole', 95)
  const quayTester = await tester('Lantern two-range tester', 'LT-2301', marramQuay, 'both', 210)

  const catalogue = await models.models.findAll({ where: { companyId }, raw: true })
  const model = (name: string) => catalogue.find((row) => row.name === name)!.id
  const [dimmer, tideSwitch, companion, quayDimmer] = [
    'Tide dimmer, with neutral',
    'Tide switch, with neutral',
    'Tide companion',
    'Breakwater dimmer',
  ].map(model) as [string, string, string, string]

  const anchor = DateTime.fromJSDate(now, { zone })
  const open = (home: DemoHome, when: DateTime, siteId: string | null = null) =>
    openJob(
      {
        source: { kind: 'json', text: JSON.stringify(jobFileOf(home)) },
        branchId: home.scheme === 'na120' ? portSallow : marramQuay,
        siteId,
        newHome: siteId === null,
      },
      lena,
      when.toJSDate(),
    )
  const crew = async (ids: { jobId: string; siteId: string }, who: Viewer, start: DateTime, prefix: string) =>
    new DemoCrew(ids.jobId, ids.siteId, who, who === sefa ? quayTester : lantern, start.toJSDate(), prefix)
  const quarter = (time: DateTime) => time.set({ minute: Math.floor(time.minute / 15) * 15, second: 0, millisecond: 0 })
  const visit = async (
    team: DemoCrew,
    people: Viewer[],
    from: DateTime,
    hours: number,
    kind: 'install' | 'survey' | 'callback' = 'install',
    callbackId: string | null = null,
  ) => {
    const visitId = uuid()
    const start = quarter(from)
    const window = { windowFrom: start.minus({ minutes: 30 }).toISO()!, windowTo: start.plus({ minutes: 90 }).toISO()! }
    await team.job(
      {
        type: 'scheduleVisit',
        visitId,
        kind,
        callbackId,
        startsAt: start.toISO()!,
        endsAt: start.plus({ hours }).toISO()!,
        ...window,
        personIds: people.map((one) => one.personId),
      },
      lena,
    )
    return visitId
  }

  const installIn = async (
    team: DemoCrew,
    box: string,
    points: string[],
    { conductors, model: modelId, name, network }: { conductors: typeof usualConductors; model: string; name: string; network: string },
  ) => {
    await team.openAndTag(box, `${team.who.initials} red 1`)
    await team.look(box, conductors)
    await team.prove(box)
    await team.wire(box, 1, modelId, points, conductors)
    await team.closeUp([box])
    for (const point of points) await team.test(point)
    await team.join({ [`${box}/1`]: name }, network, -54)
  }

  // Port Sallow: two homes finished earlier.
  const finish = async (
    home: DemoHome,
    who: Viewer,
    start: DateTime,
    prefix: string,
    boxes: { box: string; points: string[]; name: string }[],
    network: string,
    mate: Viewer[] = [],
    modelId = home.scheme === 'na120' ? tideSwitch : quayDimmer,
  ) => {
    const team = await crew(await open(home, start.minus({ days: 6 })), who, start.minus({ days: 5 }), prefix)
    const visitId = await visit(team, [who, ...mate], start, 2)
    team.at(start.plus({ minutes: 4 }).toJSDate())
    await team.job({ type: 'arrive', visitId })
    const conductors = home.scheme === 'na120' ? usualConductors : usualConductorsIec
    for (const { box, points, name } of boxes) await installIn(team, box, points, { conductors, model: modelId, name, network })
    if (home.scheme === 'iec230') await team.verifyCircuits()
    await team.handOver(home.customer)
    await team.job({ type: 'finishVisit', visitId })
    return team
  }
  await finish(
    homes.studio2,
    odo,
    anchor.minus({ hours: 5 }),
    'ST',
    [
      { box: 'press door', points: ['Press light'], name: 'Press light' },
      { box: 'drying rack', points: ['Rack light'], name: 'Drying rack light' },
    ],
    'studio-two',
  )
  const tide = await finish(
    homes.tideHouse,
    bram,
    anchor.minus({ days: 19, hours: 3 }),
    'TH',
    [
      { box: 'front hall', points: ['Hall light'], name: 'Front hall light' },
      { box: 'tide door', points: ['Tide room light'], name: 'Tide room light' },
    ],
    'tidehouse',
  )
  const [hallUnit, firstUnit] = Object.values((await tide.state()).job.units)
  // One of its devices died in its first days; it should have gone back to its maker by now, and lies here.
  const dead = uuid()
  tide.at(anchor.minus({ days: 17 }).toJSDate())
  await tide.job(
    {
      ...{ type: 'openCallback', callbackId: dead, unitId: firstUnit!.id, what: 'The tide room light does nothing.', call: null },
      ...{ since: anchor.minus({ days: 17 }).toISODate()!, wallSwitchFlipped: true, routerChanged: false, breakerTripped: false },
      offlineInApp: true,
    },
    lena,
  )
  const came = anchor.minus({ days: 16, hours: 3 })
  const deadVisit = await visit(tide, [bram], came, 1.5, 'callback', dead)
  tide.at(came.plus({ minutes: 3 }).toJSDate())
  await tide.job({ type: 'arrive', visitId: deadVisit })
  await tide.job({
    ...{ type: 'diagnoseCallback', callbackId: dead, causeKind: 'device', causeId: 'earlyFailure', remedy: 'replace', payer: 'maker' },
    ...{ cause: 'It failed within its first days.', confirmedBy: 'Line and neutral at its terminals, nothing at its load.' },
  })
  await tide.replace('tide door', 1, dead, firstUnit!.id, 'tidehouse')
  await tide.job({ type: 'closeCallback', callbackId: dead, resolution: 'Replaced, joined and tested.' })
  await tide.job({ type: 'finishVisit', visitId: deadVisit })
  const roomUnit = Object.values((await tide.state()).job.units).find(({ boxId, removedAt }) => boxId === firstUnit!.boxId && !removedAt)
  // Called about a week ago: a new router; mended on the telephone, and heard again two days later.
  const routerCall = uuid()
  tide.at(anchor.minus({ days: 7 }).toJSDate())
  await tide.job(
    {
      type: 'openCallback',
      callbackId: routerCall,
      unitId: roomUnit!.id,
      what: 'The app does not reach the tide room since the new router.',
      since: anchor.minus({ days: 8 }).toISODate()!,
      offlineInApp: true,
      wallSwitchFlipped: false,
      routerChanged: true,
      breakerTripped: false,
      call: {
        symptoms: ['offline'],
        answers: [
          { question: 'alone', answer: 2 },
          { question: 'router', answer: 0 },
        ],
        tried: [{ cause: 'routerChanged', mended: true }],
        flags: [],
        ranked: [{ cause: 'routerChanged', words: 'a new router, or a new name or password of the Wi-Fi', share: 0.86 }],
        carry: [],
        minutes: 38,
        licence: false,
        payer: 'customer',
      },
    },
    lena,
  )
  const how = 'The old name and password were given to the new router.'
  await tide.job(
    { type: 'solveCallback', callbackId: routerCall, causeId: 'routerChanged', how, callBackOn: anchor.minus({ days: 5 }).toISODate()! },
    lena,
  )
  tide.at(anchor.minus({ days: 5 }).toJSDate())
  await tide.job({ type: 'hearBack', callbackId: routerCall, works: true, said: 'Everything has answered since.' }, lena)
  tide.at(anchor.minus({ hours: 2, minutes: 50 }).toJSDate())
  await tide.job(
    {
      type: 'openCallback',
      callbackId: uuid(),
      unitId: hallUnit!.id,
      what: 'Hall light dead since last night, promised for today.',
      since: anchor.minus({ days: 1 }).toISODate()!,
      offlineInApp: true,
      wallSwitchFlipped: true,
      routerChanged: false,
      breakerTripped: false,
      call: {
        symptoms: ['dead'],
        answers: [
          { question: 'tab', answer: 1 },
          { question: 'light', answer: 2 },
          { question: 'whole', answer: 0 },
          { question: 'lever', answer: 0 },
        ],
        tried: [],
        flags: [],
        ranked: [
          { cause: 'earlyFailure', words: 'the device failed within its first weeks', share: 0.44 },
          { cause: 'looseJoint', words: 'a loose joint or terminal', share: 0.16 },
          { cause: 'otherSwitchOff', words: 'another switch before it is off', share: 0.13 },
        ],
        carry: ['the same model', 'connectors'],
        minutes: 46,
        licence: true,
        payer: null,
      },
    },
    lena,
  )

  // The Net Loft: on site now, one tag hanging, one box proven and half wired.
  const loftIds = await open(homes.netLoft, anchor.minus({ days: 9 }))
  const loft = await crew(loftIds, bram, anchor.minus({ days: 8 }), 'NL')
  const loftVisit = await visit(loft, [bram, kit], anchor.minus({ hours: 3 }), 3.5)
  loft.at(anchor.minus({ minutes: 168 }).toJSDate())
  await loft.job({ type: 'arrive', visitId: loftVisit })
  for (const [box, point, name] of [
    ['store door', 'Store ceiling', 'Net store ceiling'],
    // One phrase moves both: somebody still has to listen to the names.
    ['store bench', 'Bench strip', 'Net store'],
  ] as const) {
    await loft.openAndTag(box, 'BA red 1')
    await loft.look(box, usualConductors)
    await loft.prove(box)
    await loft.wire(box, 1, tideSwitch, [point], usualConductors)
    await loft.closeUp([box])
    await loft.test(point)
    await loft.join({ [`${box}/1`]: name }, 'netloft', -58)
  }
  await surveyLoft(loft)
  await automateLoft(loft)
  loft.at(anchor.minus({ minutes: 58 }).toJSDate())
  const headId = await loft.boxId('stair head')
  await loft.openAndTag('stair head', 'BA red 2')
  await loft.look('stair head', [
    ...usualConductors.slice(0, 3).map((conductor) => ({ ...conductor, cable: 'to stair foot' })),
    usualConductors[3]!,
  ])
  await loft.prove('stair head', 'B')
  await loft.job({ type: 'chooseDevice', boxId: headId, gang: 1, modelId: companion, pointIds: [] })
  const foot = (await loft.state()).site.boxes[await loft.boxId('stair foot')]!
  const { site: loftSite } = await loft.state()
  const second = foot.breakerIds.find((id) => loftSite.breakers[id]!.number === '9')!
  await loft.site({ type: 'observeBreaker', breakerId: second, state: 'open', note: 'second feed of the stair foot' }, kit)
  await loft.site({ type: 'hangTag', tagId: uuid(), breakerId: second, lock: 'KI blue 1' }, kit)
  const vault = await crew(await open(homes.seedVault, anchor.minus({ days: 2 }), loftIds.siteId), bram, anchor.minus({ days: 1 }), 'SV')
  await visit(vault, [bram, kit], anchor.plus({ days: 1 }).set({ hour: 9 }), 2)

  // School studio 5: on site, testing, a 3-way that fails from one side.
  const studio = await crew(await open(homes.studio5, anchor.minus({ days: 7 })), odo, anchor.minus({ days: 6 }), 'GA')
  const studioVisit = await visit(studio, [odo, pip], anchor.minus({ hours: 3, minutes: 30 }), 3.5)
  studio.at(anchor.minus({ minutes: 190 }).toJSDate())
  await studio.job({ type: 'arrive', visitId: studioVisit })
  for (const box of ['east door', 'west door']) {
    await studio.openAndTag(box, 'OR green 1')
    await studio.look(box, multiWayConductors)
    await studio.prove(box)
    if (box === 'east door') await studio.wire(box, 1, dimmer, ['Gallery light'], multiWayConductors)
  }
  await studio.closeUp(['east door', 'west door'])
  await studio.test('Gallery light', { 'Off from west door, east door down': 'Light stays on with both handles down' })
  await studio.join({ 'east door/1': 'Gallery light' }, 'studio-five', -61)

  // The rest of the day and the week.
  const boat = await crew(await open(homes.boathouse, anchor.minus({ days: 4 })), bram, anchor.minus({ days: 3 }), 'BH')
  await visit(boat, [bram, kit], anchor.plus({ minutes: 60 }), 1.5)
  const cottage = await crew(await open(homes.lockCottage, anchor.minus({ days: 4 })), odo, anchor.minus({ days: 2 }), 'LC')
  await visit(cottage, [odo, pip], anchor.plus({ minutes: 45 }), 2)
  const heron = await crew(await open(homes.heronHouse, anchor.minus({ days: 3 })), odo, anchor.minus({ days: 1 }), 'HH')
  await visit(heron, [odo, pip], anchor.plus({ days: 1 }).set({ hour: 13 }), 2)
  await heron.prepare('loft stair', tideSwitch, ['Loft light'], true)
  await heron.prepare('window nook', tideSwitch, ['Window nook light'], false)
  const ferry = await crew(await open(homes.ferryOffice, anchor.minus({ days: 11 })), kit, anchor.minus({ days: 10 }), 'FO')
  const ferryVisit = await visit(ferry, [kit, pip], anchor.minus({ days: 1, hours: 2 }), 2)
  ferry.at(anchor.minus({ days: 1, hours: 2 }).toJSDate())
  await ferry.job({ type: 'arrive', visitId: ferryVisit })
  await ferry.openAndTag('counter end', 'KI blue 1')
  await ferry.look('counter end', fullConductors)
  await ferry.prove('counter end')
  await ferry.bench('counter end', 1, 'Counter lights', pip)
  await ferry.wire('counter end', 1, tideSwitch, ['Counter lights'], fullConductors)
  await ferry.closeUp(['counter end'])
  await ferry.test('Counter lights')
  await ferry.giveUpPairing('counter end', 1)
  await ferry.job({ type: 'finishVisit', visitId: ferryVisit })
  await open(homes.sailmakers, anchor.minus({ days: 1 }))

  await fillDay(more, anchor, {
    office: lena,
    open,
    team: crew,
    visit,
    installIn: (team, box, point) =>
      installIn(team, box, [point], { conductors: usualConductors, model: tideSwitch, name: point, network: 'home' }),
  })

  // Marram Quay.
  const lamp = await finish(
    homes.lampStore,
    sefa,
    anchor.minus({ days: 30 }),
    'LS',
    [{ box: 'till', points: ['Shop lights'], name: 'Shop lights' }],
    'lampstore',
  )
  lamp.at(anchor.minus({ days: 1 }).toJSDate())
  const callbackId = uuid()
  await lamp.job(
    {
      type: 'openCallback',
      callbackId,
      unitId: Object.values((await lamp.state()).job.units)[0]!.id,
      what: 'Shop lights flicker, then the dimmer is dead until its MCB is switched off and on.',
      since: anchor.minus({ days: 2 }).toISODate()!,
      offlineInApp: true,
      wallSwitchFlipped: false,
      routerChanged: false,
      breakerTripped: false,
    },
    lena,
  )
  const lampVisit = await visit(lamp, [sefa], anchor.minus({ hours: 1 }), 1.5, 'callback', callbackId)
  lamp.at(anchor.minus({ minutes: 50 }).toJSDate())
  await lamp.job({ type: 'arrive', visitId: lampVisit })
  await lamp.job({
    type: 'diagnoseCallback',
    callbackId,
    causeKind: 'device',
    cause: 'Relay drops out when warm; wiring as recorded.',
    remedy: 'replace',
  })
  await lamp.openAndTag('till', 'SV yellow 1')
  await lamp.prove('till', null, 1)
  const till = (await lamp.state()).site.boxes[await lamp.boxId('till')]!
  await lamp.site({
    type: 'takeReading',
    proofId: till.proofId!,
    a: 'B',
    b: 'REF',
    position: [],
    impedance: 'high',
    volts: 14.2,
    neutral: null,
  })
  const quay = await crew(await open(homes.quayLofts, anchor.minus({ days: 5 })), sefa, anchor.minus({ days: 4 }), 'QL')
  await visit(quay, [sefa], anchor.plus({ minutes: 75 }), 2)
  await writeToCustomers(lena, portSallow, anchor)
  if (!years) return
  await fillYears([bram, kit, ...more.map(([who]) => who!)], anchor, {
    office: lena,
    model,
    finish: (home, who, start, prefix, modelId) =>
      finish(
        home,
        who,
        start,
        prefix,
        home.boxes.map(([, box], index) => ({ box, points: [home.points[index]![0]], name: home.points[index]![0] })),
        'home',
        [],
        modelId,
      ),
    callbackVisit: (team, who, from, callbackId) => visit(team, [who], from, 1.5, 'callback', callbackId),
  })
}

/** What the office wrote this morning; one number on record is wrong. */
async function writeToCustomers(lena: Viewer, branchId: string, anchor: DateTime): Promise<void> {
  const { models } = database()
  const coming = await visitsWithCrew({ branchId, status: 'planned', startsAt: { [Op.gt]: anchor.plus({ minutes: 40 }).toJSDate() } })
  const reached = coming.filter(({ kind }) => kind === 'install').slice(0, 4)
  for (const [index, { id, jobId }] of reached.entries()) {
    const { customerId } = (await models.jobs.findByPk(jobId, { raw: true }))!
    const contact = await readContact(lena, id)
    if (index === 1) await models.customers.update({ phone: 'ask at the bakery' }, { where: { id: customerId } })
    const channel = index === 1 || contact.phone ? ('sms' as const) : ('mail' as const)
    const branch = (await models.branches.findByPk(branchId))!
    const region = regionOf({ ...branch.get({ plain: true }), settings: rulesOf(branch) })
    const link = `https://wick-and-latch.example${contact.link}`
    const body = letterOf('reminder', { ...contact, link, expectedAt: null, region })
    const at = anchor.minus({ minutes: 95 - 4 * index }).toJSDate()
    await sendMessage(lena, id, { id: uuid(), purpose: 'reminder', channel, body, window: null, offers: [] }, at)
  }
  await deliveries()
}
