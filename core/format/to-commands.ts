import type { JobCommand } from '../job'
import { sameName, type SiteCommand, type SiteState } from '../site'
import type { JobFile } from './job-file'

export interface IntakeCommands {
  layOut: Extract<SiteCommand, { type: 'layOut' }>
  openJob: Extract<JobCommand, { type: 'openJob' }>
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
      ids.set(`breaker:${panel.key}/${breaker.role === 'main' ? 'main:' : breaker.number}`, breaker.id)
  }
  for (const room of file.rooms) {
    const known = Object.values(site.rooms).find((candidate) => sameName(candidate.name, room.name))
    if (!known) continue
    ids.set(`room:${room.key}`, known.id)
    for (const box of file.boxes.filter((candidate) => candidate.room === room.key)) {
      const knownBox = Object.values(site.boxes).find((candidate) => candidate.roomId === known.id && sameName(candidate.name, box.name))
      if (knownBox) ids.set(`box:${box.key}`, knownBox.id)
    }
  }
  return ids
}

/**
 * Turns a checked job file into the two commands that open it: the site's layout and the job.
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
  const breakerKey = (panel: string, number: string) => id('breaker', `${panel}/${number}`)
  const breakers: IntakeCommands['layOut']['breakers'] = []
  for (const panel of file.panels) {
    const panelId = id('panel', panel.key)
    const base = {
      poles: 1,
      amps: null,
      labelAsFound: '',
      offLimits: null,
      sourceId: null,
      suppliesPanelId: null,
      protection: 'unknown' as const,
    }
    if (panel.main)
      breakers.push({
        ...base,
        id: breakerKey(panel.key, 'main:'),
        panelId,
        role: 'main',
        sourceId: id('source', panel.main.source),
        suppliesPanelId: panelId,
        number: panel.main.number,
        poles: file.site.scheme === 'na120' ? 2 : 1,
        amps: panel.main.amps,
        state: 'closed',
      })
    for (const breaker of panel.breakers) {
      const fed = file.panels.find((other) => other.fedFrom?.panel === panel.key && other.fedFrom.breaker === breaker.number)
      breakers.push({
        ...base,
        id: breakerKey(panel.key, breaker.number),
        panelId,
        role: fed ? 'feeder' : 'branch',
        suppliesPanelId: fed ? id('panel', fed.key) : null,
        number: breaker.number,
        poles: breaker.poles,
        amps: breaker.amps,
        labelAsFound: breaker.label,
        state: breaker.state,
        offLimits: breaker.offLimits,
      })
    }
  }
  const farOf = (key: string) =>
    [
      ...new Set(
        file.points
          .filter((point) => point.controls.some((control) => control.box === key))
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
        breakerIds: box.feeds.map((feed) => breakerKey(feed.panel, feed.breaker)),
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
        controls: point.controls.map((control) => ({ boxId: id('box', control.box), gang: control.gang })),
      })),
    },
  }
}
