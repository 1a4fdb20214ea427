import type { JobCommand } from '../job'
import { sameName, type SiteCommand, type SiteState } from '../site'
import { feedsOf, pointKey, type FilePoint, type JobFile } from './job-file'

export interface IntakeCommands {
  layOut: Extract<SiteCommand, { type: 'layOut' }>
  openJob: Extract<JobCommand, { type: 'openJob' }>
  /** What was seen of it: what the record of a known home says already stands. */
  survey: SiteCommand[]
}

/** Ids of what a known site already has, under the keys this file uses for it: matched by name and number. */
function knownIds(file: JobFile, site: SiteState): Map<string, string> {
  const ids = new Map<string, string>()
  for (const source of file.site.sources) {
    const known = Object.values(site.sources).find((candidate) => sameName(candidate.name, source.name))
    if (known) ids.set(`source:${source.key}`, known.id)
  }
  for (const panel of file.panels) {
    const known = Object.values(site.panels).find((candidate) => sameName(candidate.name, panel.name))
    if (!known) continue
    ids.set(`panel:${panel.key}`, known.id)
    for (const breaker of Object.values(site.breakers).filter((candidate) => candidate.panelId === known.id))
      ids.set(breaker.role === 'main' ? `main:${panel.key}/${breaker.number}` : `breaker:${panel.key}/${breaker.number}`, breaker.id)
  }
  for (const breaker of Object.values(site.breakers)) if (breaker.panelId === null) ids.set(`breaker:/${breaker.number}`, breaker.id)
  for (const room of file.rooms) {
    const known = Object.values(site.rooms).find((candidate) => sameName(candidate.name, room.name))
    if (!known) continue
    ids.set(`room:${room.key}`, known.id)
    for (const box of file.boxes.filter((candidate) => candidate.room === room.key)) {
      const knownBox = Object.values(site.boxes).find((candidate) => candidate.roomId === known.id && sameName(candidate.name, box.name))
      if (knownBox) ids.set(`box:${box.key}`, knownBox.id)
    }
  }
  for (const network of file.networks) {
    const known = Object.values(site.networks).find(
      (one) => one.kind === network.kind && one.name === network.name && one.note === network.note,
    )
    if (known) ids.set(`network:${network.key}`, known.networkId)
  }
  return ids
}

/** The commands that tell the record what a survey saw; only what it does not say already. */
function surveyCommands(
  file: JobFile,
  id: (kind: string, key: string) => string,
  newId: () => string,
  site: SiteState | null,
): SiteCommand[] {
  const { housing, builder, neutralEarthed } = file.site
  const home = {
    ...(housing !== null && !site?.home.housing ? { housing } : {}),
    ...(builder && !site?.home.builder ? { builder } : {}),
    // That its supply is not the usual one is never left out.
    ...(neutralEarthed !== null && (site?.home.neutralEarthed ?? null) === null ? { neutralEarthed } : {}),
  }
  const commands: SiteCommand[] = Object.keys(home).length ? [{ type: 'describeHome', ...home }] : []
  for (const tie of file.sharedNeutrals) {
    const breakerIds = tie.map((point) => id('breaker', pointKey(point)))
    if (!site?.neutralTies.some((one) => breakerIds.every((breakerId) => one.includes(breakerId))))
      commands.push({ type: 'tieNeutrals', breakerIds, basis: 'as the file says' })
  }
  for (const network of file.networks) {
    const networkId = id('network', network.key)
    if (site?.networks[networkId]) continue
    const { key: _, room, ...facts } = network
    commands.push({ type: 'recordNetwork', ...facts, networkId, roomId: room && id('room', room) })
  }
  for (const { key, place } of file.rooms) {
    const roomId = id('room', key)
    if (place && !site?.places[roomId]) commands.push({ type: 'placeRoom', roomId, place })
  }
  for (const box of file.boxes) {
    const boxId = id('box', box.key)
    const known = site?.surveys[boxId] ?? {}
    const noted = Object.fromEntries(Object.entries(box.survey).filter(([part, value]) => value !== null && !(part in known)))
    if (Object.keys(noted).length) commands.push({ type: 'noteBox', boxId, noted })
  }
  for (const { box, room, network, ...level } of file.signals) {
    const reading = {
      ...level,
      boxId: box && id('box', box),
      roomId: room && id('room', room),
      networkId: network && id('network', network),
    }
    const same = ({ readingId: _, at: __, by: ___, ...other }: SiteState['signals'][number]) =>
      Object.entries(reading).every(([part, value]) => other[part as keyof typeof other] === value)
    if (!site?.signals.some(same)) commands.push({ type: 'readSignal', readingId: newId(), ...reading })
  }
  return commands
}

/**
 * Turns a checked job file into the commands that open it: the site's layout, the job, and what a survey saw.
 * @param newId gives a fresh uuid v7
 * @param site the site's record when the home is already known: what it has is used again, not laid out twice
 */
export function intakeCommands(file: JobFile, siteId: string, newId: () => string, site: SiteState | null = null): IntakeCommands {
  const ids = site ? knownIds(file, site) : new Map<string, string>()
  const id = (kind: string, key: string) => {
    const full = `${kind}:${key}`
    if (!ids.has(full)) ids.set(full, newId())
    return ids.get(full)!
  }
  const breakerId = (point: FilePoint) => id('breaker', pointKey(point))
  const breakers: IntakeCommands['layOut']['breakers'] = []
  const base = {
    poles: 1,
    amps: null,
    labelAsFound: '',
    offLimits: null,
    sourceId: null,
    suppliesPanelId: null,
    protection: 'unknown' as const,
  }
  const listed = (breaker: JobFile['disconnects'][number], panel: JobFile['panels'][number] | null) => {
    const point = { panel: panel?.key ?? null, breaker: breaker.number }
    const fed = file.panels.find((other) => feedsOf(other).some((one) => pointKey(one) === pointKey(point)))
    const { number, poles, amps, label: labelAsFound, state, offLimits, protection } = breaker
    breakers.push({
      ...base,
      ...{ number, poles, amps, labelAsFound, state, offLimits, protection },
      id: breakerId(point),
      panelId: panel && id('panel', panel.key),
      role: fed ? 'feeder' : 'branch',
      suppliesPanelId: fed ? id('panel', fed.key) : null,
    })
  }
  for (const panel of file.panels) {
    const panelId = id('panel', panel.key)
    for (const { number, amps, source, state } of [...(panel.main ? [panel.main] : []), ...panel.otherMains])
      breakers.push({
        ...base,
        ...{ number, amps, state, panelId },
        id: id('main', `${panel.key}/${number}`),
        role: 'main',
        sourceId: id('source', source),
        suppliesPanelId: panelId,
        poles: file.site.scheme === 'na120' ? 2 : 1,
      })
    for (const breaker of panel.breakers) listed(breaker, panel)
  }
  for (const breaker of file.disconnects) listed(breaker, null)
  const farOf = (key: string) =>
    [
      ...new Set(
        file.points
          .filter((point) => point.fixture === key || point.controls.some((control) => control.box === key))
          .flatMap((point) => point.controls.map((control) => control.box)),
      ),
    ].filter((other) => other !== key)
  return {
    layOut: {
      type: 'layOut',
      schemeId: file.site.scheme,
      sources: file.site.sources.map((source) => ({ id: id('source', source.key), kind: source.kind, name: source.name })),
      panels: file.panels.map((panel) => ({ id: id('panel', panel.key), name: panel.name, place: panel.place })),
      breakers: breakers.filter((breaker) => !site?.breakers[breaker.id]),
      rooms: file.rooms.map((room) => ({ id: id('room', room.key), name: room.name })),
      boxes: file.boxes.map((box) => ({
        id: id('box', box.key),
        roomId: id('room', box.room),
        name: box.name,
        gangs: box.gangs,
        volumeIn3: box.volumeIn3,
        depthMm: box.depthMm,
        material: box.material,
        internalClamps: box.internalClamps,
        breakerIds: box.feeds.map(breakerId),
        unknownFeed: box.unknownFeed || box.feeds.length === 0,
        farBoxIds: farOf(box.key).map((other) => id('box', other)),
      })),
    },
    openJob: {
      type: 'openJob',
      siteId,
      title: file.job.title,
      note: file.job.note,
      boxIds: file.boxes.map((box) => id('box', box.key)),
      points: file.points.map((point) => ({
        id: newId(),
        roomId: id('room', point.room),
        name: point.name,
        load: point.load,
        mustRun: point.mustRun,
        fixtureBoxId: point.fixture && id('box', point.fixture),
        controls: point.controls.map((control) => ({ boxId: id('box', control.box), gang: control.gang })),
      })),
    },
    survey: surveyCommands(file, id, newId, site),
  }
}
