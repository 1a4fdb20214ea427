import { says, writeRows } from './cells'
import { feedsOf, type FilePoint, type JobFile } from './job-file'
import { breakerCell, networkCell, surveyColumns, surveyTableNames, type Cells, type SurveyTable } from './survey-columns'

/** The survey of a file as tables, one CSV each. A spreadsheet takes no cell of them for a formula. */
export function surveyTables(file: JobFile): Record<SurveyTable, string> {
  const roomName = new Map(file.rooms.map(({ key, name }) => [key, name]))
  const panelName = new Map(file.panels.map(({ key, name }) => [key, name]))
  const sourceName = new Map(file.site.sources.map(({ key, name }) => [key, name]))
  const boxOf = new Map(file.boxes.map((box) => [box.key, box]))
  const at = (point: FilePoint) => breakerCell(point.panel === null ? null : (panelName.get(point.panel) ?? ''), point.breaker)
  const place = (key: string | null) => {
    const box = key === null ? undefined : boxOf.get(key)
    return { room: box ? roomName.get(box.room)! : '', box: box?.name ?? '' }
  }
  const tieOf = (point: FilePoint) =>
    file.sharedNeutrals
      .filter((tie) => tie.some((one) => at(one) === at(point)))
      .flatMap((tie) => tie.map(at).filter((one) => one !== at(point)))
      .join('; ')
  const breakerRow = (panel: string | null, one: JobFile['disconnects'][number]): Cells<'breakers'> => {
    const point = { panel, breaker: one.number }
    const fed = file.panels.filter((other) => feedsOf(other).some((feed) => at(feed) === at(point)))
    return {
      panel: panel === null ? '' : panelName.get(panel)!,
      breaker: one.number,
      main_of: '',
      feeds_panel: fed.map(({ name }) => name).join('; '),
      poles: one.poles,
      amps: one.amps,
      label: one.label,
      state: one.state,
      protection: one.protection,
      off_limits: one.offLimits ?? '',
      neutral_with: tieOf(point),
    }
  }
  const rows: { [T in SurveyTable]: Cells<T>[] } = {
    home: [
      {
        ...{ housing: file.site.housing ?? '', builder: file.site.builder },
        neutral_earthed: file.site.neutralEarthed === null ? '' : says(file.site.neutralEarthed),
      },
    ],
    sources: file.site.sources.map(({ name, kind }) => ({ source: name, kind })),
    rooms: file.rooms.map(({ name, place }) => {
      const plan = place?.kind === 'plan' ? place : null
      const between = place?.kind === 'between' ? place : null
      return {
        room: name,
        placed: place?.kind ?? '',
        floor: plan?.floor ?? null,
        x: plan?.x ?? null,
        y: plan?.y ?? null,
        width: plan?.width ?? null,
        depth: plan?.depth ?? null,
        metres: between?.metres ?? null,
        walls: between?.walls ?? null,
        floors: between?.floors ?? null,
      }
    }),
    panels: file.panels.map(({ name, place }) => ({ panel: name, place })),
    breakers: [
      ...file.panels.flatMap((panel) => [
        ...[...(panel.main ? [panel.main] : []), ...panel.otherMains].map(({ number, source, amps, state }): Cells<'breakers'> => ({
          ...{
            panel: panel.name,
            breaker: number,
            main_of: sourceName.get(source) ?? '',
            feeds_panel: '',
            poles: null,
            amps,
            label: '',
            state,
          },
          ...{ protection: '', off_limits: '', neutral_with: '' },
        })),
        ...panel.breakers.map((one) => breakerRow(panel.key, one)),
      ]),
      ...file.disconnects.map((one) => breakerRow(null, one)),
    ],
    boxes: file.boxes.map((box) => ({
      room: roomName.get(box.room)!,
      box: box.name,
      kind: box.survey.kind ?? '',
      gangs: box.gangs,
      volume_in3: box.volumeIn3,
      depth_mm: box.depthMm,
      material: box.material,
      clamps: box.internalClamps,
      fittings: box.survey.supportFittings ?? null,
      feeds: box.feeds.map(at).join('; '),
      feed_unknown: says(box.unknownFeed),
      looked: box.survey.looked ?? '',
      neutral: box.survey.neutral ?? '',
      ground: box.survey.ground ?? '',
      onward: box.survey.onward ?? '',
      plate: box.survey.plate ?? '',
      finish: box.survey.finish ?? '',
      free_length_mm: box.survey.freeLengthMm ?? null,
      faults: (box.survey.faults ?? []).map(({ is, then }) => `${is} ${then}`).join('; '),
    })),
    devices: file.boxes.flatMap((box) =>
      (box.survey.old ?? []).map(({ gang, is, holds, onWhen, keep }) => ({
        ...place(box.key),
        ...{ gang, is, holds: holds ?? '', on_when: onWhen ?? '', keep: keep === null ? '' : says(keep) },
      })),
    ),
    cables: file.boxes.flatMap((box) =>
      (box.survey.cables ?? []).map(({ gaugeAwg, areaMm2, colours, stranded }) => ({
        ...place(box.key),
        ...{ gauge_awg: gaugeAwg, area_mm2: areaMm2, colours: colours.join('; '), stranded: says(stranded) },
      })),
    ),
    splices: file.boxes.flatMap((box) =>
      (box.survey.splices ?? []).map(({ connector, conductors, freePorts }) => ({
        ...place(box.key),
        ...{ connector, conductors, free_ports: freePorts },
      })),
    ),
    points: file.points.flatMap((point) =>
      point.controls.map((control) => ({
        room: roomName.get(point.room)!,
        point: point.name,
        load: point.load.technology,
        lamps: point.load.lamps,
        watts_each: point.load.wattsEach,
        dimmable: says(point.load.dimmable),
        must_run: says(point.mustRun),
        fixture_room: place(point.fixture).room,
        fixture_box: place(point.fixture).box,
        switch_room: place(control.box).room,
        switch_box: place(control.box).box,
        gang: control.gang,
      })),
    ),
    networks: file.networks.map((one) => ({
      network: one.name,
      kind: one.kind,
      bands: one.bands.join('; '),
      channel: one.channel,
      own_name: says(one.ownName),
      isolated: says(one.isolated),
      holds: one.holds,
      holds_most: one.holdsMost,
      bound: one.bound.join('; '),
      room: one.room === null ? '' : (roomName.get(one.room) ?? ''),
      note: one.note,
    })),
    signals: file.signals.map((one) => {
      const network = file.networks.find(({ key }) => key === one.network)
      const spot = one.box === null ? { room: one.room === null ? '' : (roomName.get(one.room) ?? ''), box: '' } : place(one.box)
      return {
        ...spot,
        ...{ network: network ? networkCell(network, file.networks) : '', band: one.band, dbm: one.dbm, bars: one.bars },
        round_trip_ms: one.roundTripMs,
      }
    }),
  }
  return Object.fromEntries(surveyTableNames.map((table) => [table, writeRows(surveyColumns(table), rows[table])])) as Record<
    SurveyTable,
    string
  >
}
