import { crew, Scenario, testFile } from '../testing/scenario'
import { boxesBehind, feedingBreakers, isBehind, pathIsCut, uncutFeeds } from './feeds'

const open = (scenario: Scenario, number: string) =>
  scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker(number).id, state: 'open', note: '' }))
const isOpen = (breaker: { state: string }) => breaker.state === 'open'
const names = (boxes: { name: string }[]) => boxes.map((box) => box.name).sort()

describe('the feed graph', () => {
  test('what is behind a breaker: its boxes, those with an unknown feed, and everything behind the main', () => {
    const scenario = new Scenario()
    expect(names(boxesBehind(scenario.site, scenario.breaker('1').id))).toEqual(['attic', 'door', 'stair'])
    expect(names(boxesBehind(scenario.site, scenario.breaker('3').id))).toEqual(['attic'])
    expect(names(boxesBehind(scenario.site, scenario.breaker('main').id))).toEqual(['attic', 'door', 'stair'])
    expect(boxesBehind(scenario.site, 'nowhere')).toEqual([])
  })
  test('a path is cut at the breaker or at the main above it', () => {
    const scenario = new Scenario()
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(false)
    open(scenario, 'main')
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(true)
  })
  test('a panel with two supplies is cut only when both are open', () => {
    const scenario = new Scenario()
    const backfeed = {
      ...scenario.breaker('main'),
      id: 'solar',
      number: 'solar',
      role: 'main' as const,
      suppliesPanelId: scenario.breaker('main').suppliesPanelId,
      state: 'closed' as const,
    }
    scenario.site.breakers.solar = backfeed
    open(scenario, 'main')
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(false)
    scenario.site.breakers.solar.state = 'open'
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(true)
  })
  test('panels that seem to feed each other in a circle never count as cut, and end', () => {
    const scenario = new Scenario()
    scenario.breaker('main').role = 'feeder'
    scenario.breaker('2').suppliesPanelId = scenario.breaker('main').panelId
    expect(pathIsCut(scenario.site, scenario.breaker('1'), () => false)).toBe(false)
  })
  test('a panel without any recorded supply is cut only at its own breaker', () => {
    const scenario = new Scenario({ ...testFile, panels: [{ ...testFile.panels[0]!, main: null }] })
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(false)
    open(scenario, '1')
    expect(pathIsCut(scenario.site, scenario.breaker('1'), isOpen)).toBe(true)
  })
  test('shared neutrals chain: 1 with 2, 2 with 3 makes all three feed the box', () => {
    const scenario = new Scenario()
    for (const pair of [
      ['1', '2'],
      ['2', '3'],
    ])
      scenario.must(
        scenario.submitSite(
          { type: 'tieNeutrals', breakerIds: pair.map((number) => scenario.breaker(number).id), basis: 'one splice' },
          crew.ben,
        ),
      )
    expect(feedingBreakers(scenario.site, scenario.box('door')).map((breaker) => breaker.number)).toEqual(['1', '2', '3'])
    expect(isBehind(scenario.site, scenario.box('door'), scenario.breaker('3').id)).toBe(true)
  })
  test('what is not cut is named: the breaker, or the main when the feed is unknown', () => {
    const scenario = new Scenario()
    const uncut = (box: string) =>
      uncutFeeds(scenario.site, scenario.box(box), isOpen).map((feed) => `${feed.breaker?.number}${feed.unknown ? ' (unknown feed)' : ''}`)
    expect([uncut('stair'), uncut('attic')]).toEqual([['1', '2'], ['main (unknown feed)']])
    open(scenario, '1')
    expect(uncut('stair')).toEqual(['2'])
  })
})
