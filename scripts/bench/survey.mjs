// npm run bench:survey: what a phone computes of a surveyed home, beside a loop of plain arithmetic in the same run.
import { createJiti } from 'jiti'
import { say } from '../lib/host.mjs'

const jiti = createJiti(import.meta.url)
const load = (path) => jiti.import(`../../${path}`)
const { Scenario, testFile, testModel } = await load('core/testing/scenario.ts')
const { judgeAtGang } = await load('core/job/index.ts')
const { unknownsOf, usualCables, verdictOn, worthOpening } = await load('core/survey/index.ts')
const { fitRadio, radioGrid } = await load('core/radio/index.ts')

const median = (work, times = 15) => {
  const took = Array.from({ length: times }, () => {
    const began = performance.now()
    work()
    return performance.now() - began
  }).sort((a, b) => a - b)
  return took[Math.floor(times / 2)]
}
const baseline = median(() => {
  let sum = 0
  for (let index = 1; index < 1_000_000; index++) sum += Math.log10(index)
  return sum
})
const many = 60
const boxes = Array.from({ length: many }, (_, index) => ({ ...testFile.boxes[0], key: `box-${index}`, name: `box ${index}` }))
const points = boxes.map(({ key }, index) => ({ ...testFile.points[0], name: `light ${index}`, controls: [{ box: key, gang: 1 }] }))
const scenario = new Scenario({ ...testFile, boxes, points })
const cable = usualCables.na120[0].cable
for (const { id } of Object.values(scenario.site.boxes))
  scenario.must(scenario.submitSite({ type: 'noteBox', boxId: id, noted: { looked: 'inside', cables: [cable, cable], neutral: 'here' } }))
const fit = median(() => {
  for (const id of scenario.site.boxOrder) {
    const box = scenario.site.boxes[id]
    verdictOn(scenario.job, scenario.site, box, { edition: '2020', yearBuilt: 1970 })
    unknownsOf(scenario.job, scenario.site, box)
    judgeAtGang(scenario.job, scenario.site, box, 1, testModel, [])
  }
  worthOpening(scenario.job, scenario.site, 1970)
})
const rooms = [0, 1, 2].flatMap((floor) =>
  Array.from({ length: 6 }, (_, index) => ({
    id: `${floor}-${index}`,
    floor,
    x: (index % 3) * 4,
    y: Math.floor(index / 3) * 4.5,
    width: 4,
    depth: 4.5,
  })),
)
const grids = median(() => {
  for (const band of ['2.4', '5']) for (const floor of [0, 1, 2]) radioGrid(fitRadio(band, []), rooms, [{ floor: 0, x: 2, y: 2 }], floor)
}, 7)
const line = (what, took, wanted) =>
  say(`${took <= wanted ? 'ok  ' : 'MISS'} ${what}: ${took.toFixed(1)} ms (wanted ${wanted}), ${(took / baseline).toFixed(1)} × the loop`)
say(`loop of a million logarithms: ${baseline.toFixed(1)} ms`)
line(`fit of ${many} points`, fit, 50)
line('grid of 3 floors at 0.25 m, both bands', grids, 200)
