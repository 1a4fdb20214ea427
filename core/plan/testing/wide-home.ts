import type { JobFile } from '../../format'
import { usualCables } from '../../survey'
import { Scenario, testFile } from '../../testing/scenario'

const box = (name: string, gangs: number): JobFile['boxes'][number] => ({
  key: name,
  room: 'hall',
  name,
  gangs,
  volumeIn3: gangs === 1 ? 20.3 : 42,
  depthMm: null,
  material: 'plastic',
  internalClamps: 1,
  feeds: [{ panel: 'panel', breaker: '1' }],
  unknownFeed: false,
  survey: {},
})
const point = (
  name: string,
  technology: JobFile['points'][number]['load']['technology'],
  lamps: number,
  wattsEach: number,
  controls: [string, number][],
  mustRun = false,
): JobFile['points'][number] => ({
  name,
  room: 'hall',
  mustRun,
  fixture: null,
  load: { technology, lamps, wattsEach, dimmable: technology === 'led' },
  controls: controls.map(([at, gang]) => ({ box: at, gang })),
})
/** A home in which every kind of solution has a place: single, from two places, a fan beside a lamp, a socket, a motor that must run. */
export const wideFile: JobFile = {
  ...testFile,
  boxes: [box('door', 1), box('north', 1), box('south', 1), box('fan', 2), box('pair', 2), box('plug', 1), box('vault', 1)],
  points: [
    point('Door light', 'led', 2, 9, [['door', 1]]),
    point('Long hall', 'led', 6, 8, [
      ['north', 1],
      ['south', 1],
    ]),
    point('Fan', 'fan', 1, 60, [['fan', 1]]),
    point('Fan light', 'led', 1, 12, [['fan', 2]]),
    point('Left', 'led', 3, 7, [['pair', 1]]),
    point('Right', 'led', 3, 7, [['pair', 2]]),
    point('Socket', 'socket', 1, 200, [['plug', 1]]),
    point('Vault motor', 'motor', 1, 95, [['vault', 1]], true),
  ],
}
/** The same, looked into everywhere. */
export function wideHome(neutral: 'here' | 'none' = 'here'): Scenario {
  const scenario = new Scenario(wideFile)
  const cable = usualCables.na120[0]!.cable
  for (const { name } of wideFile.boxes)
    scenario.must(
      scenario.submitSite({
        type: 'noteBox',
        boxId: scenario.box(name).id,
        noted: { looked: 'inside', neutral, ground: 'conductor', cables: [cable, cable] },
      }),
    )
  return scenario
}
