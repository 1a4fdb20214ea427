import fc from 'fast-check'
import { crew, Scenario } from '../../testing/scenario'
import {
  beliefOf,
  beliefsAt,
  codeDepths,
  directoryOf,
  tracingAt,
  nextRound,
  type TracedBox,
  type TracingProblem,
  type TracingRound,
} from '../index'

const ids = (count: number) => Array.from({ length: count }, (_, index) => `b${index + 1}`)
function load(boxId: string, weights: number[], { pairs = true, none = 0.05 } = {}): TracedBox {
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  const names = ids(weights.length)
  const single = weights.map((weight, index) => ({ breakerIds: [names[index]!], weight: (weight / total) * (1 - none) }))
  return {
    boxId,
    hypotheses: [
      ...single,
      ...(none ? [{ breakerIds: [], weight: none }] : []),
      ...(pairs
        ? single.flatMap((a, i) =>
            single.slice(i + 1).map((b) => ({ breakerIds: [...a.breakerIds, ...b.breakerIds], weight: a.weight * b.weight * 0.02 })),
          )
        : []),
    ],
  }
}
const problem = (loads: TracedBox[], count: number, rounds: TracingRound[] = []): TracingProblem => ({
  breakers: ids(count).map((id) => ({ id, cost: 0 })),
  loads,
  rounds,
})
/** Plays circuit tracing in a house where `truth` feeds the boxes; `slip` says which observations come out wrong. */
function play(
  loads: TracedBox[],
  count: number,
  truth: Record<string, string[]>,
  slip: (round: number, boxId: string) => boolean = () => false,
) {
  const rounds: TracingRound[] = []
  let toFind = 0
  for (let step = 0; step < 60; step++) {
    const next = nextRound(problem(loads, count, rounds))
    if (!next) break
    if (next.purpose === 'find') toFind = step + 1
    const seen = Object.fromEntries(
      loads.map(({ boxId }) => {
        const feeds = truth[boxId]!
        const off = feeds.length > 0 && feeds.every((id) => next.open.includes(id))
        return [boxId, (slip(step, boxId) ? !off : off) ? ('off' as const) : ('on' as const)]
      }),
    )
    rounds.push({ open: next.open, seen })
  }
  return { rounds, toFind, beliefs: loads.map((one) => beliefOf(one, rounds)) }
}

/**
 * The least expected number of rounds, by trying every set in every state: shares nothing with the planner. Bits of a
 * number stand for what may still feed a box; the last bit is "none of them", which nothing can open.
 */
function exhaustive(weights: number[][], breakers: number): number {
  const known = new Map<string, number>()
  const sum = (state: number, one: number) => weights[one]!.reduce((total, weight, bit) => total + (state & (1 << bit) ? weight : 0), 0)
  const solve = (states: number[]): number => {
    if (states.every((state) => (state & (state - 1)) === 0)) return 0
    const key = states.join()
    const before = known.get(key)
    if (before !== undefined) return before
    let best = Infinity
    for (let set = 1; set < 1 << breakers; set++) {
      let cost = 1
      let tells = false
      for (let outcome = 0; outcome < 1 << states.length && cost < best; outcome++) {
        let chance = 1
        const after = states.map((state, one) => {
          const left = outcome & (1 << one) ? state & set : state & ~set
          chance *= sum(left, one) / sum(state, one)
          return left
        })
        if (chance === 0) continue
        if (after.some((state, one) => state !== states[one])) {
          tells = true
          cost += chance * solve(after)
        } else cost = Infinity
      }
      if (tells && cost < best) best = cost
    }
    known.set(key, best)
    return best
  }
  return solve(weights.map((list) => (1 << list.length) - 1))
}
/** Expected rounds of the planner, over everything that may be true. */
function planned(loads: TracedBox[], count: number): number {
  const walk = (rounds: TracingRound[], left: string[][][], chance: number[][]): number => {
    const next = nextRound(problem(loads, count, rounds))
    if (!next || next.purpose !== 'find') return 0
    const totals = chance.map((list) => list.reduce((sum, weight) => sum + weight, 0))
    let mean = 1
    for (let outcome = 0; outcome < 1 << loads.length; outcome++) {
      let share = 1
      const keep = left.map((feeds, one) =>
        feeds.flatMap((feed, at) => {
          const off = feed.length > 0 && feed.every((id) => next.open.includes(id))
          return off === Boolean(outcome & (1 << one)) ? [at] : []
        }),
      )
      for (const [one, list] of keep.entries()) share *= list.reduce((sum, at) => sum + chance[one]![at]!, 0) / totals[one]!
      if (share === 0) continue
      const seen = Object.fromEntries(loads.map(({ boxId }, one) => [boxId, outcome & (1 << one) ? ('off' as const) : ('on' as const)]))
      mean +=
        share *
        walk(
          [...rounds, { open: next.open, seen }],
          keep.map((list, one) => list.map((at) => left[one]![at]!)),
          keep.map((list, one) => list.map((at) => chance[one]![at]!)),
        )
    }
    return mean
  }
  return walk(
    [],
    loads.map((one) => one.hypotheses.map((hypothesis) => hypothesis.breakerIds)),
    loads.map((one) => one.hypotheses.map((hypothesis) => hypothesis.weight)),
  )
}

describe('planning rounds', () => {
  test('the best code has the mean length that Huffman’s own example has', () => {
    // Huffman, "A Method for the Construction of Minimum-Redundancy Codes", Proc. IRE 40 (1952), table I: 3.42 digits.
    const weights = [0.2, 0.18, 0.1, 0.1, 0.1, 0.06, 0.06, 0.04, 0.04, 0.04, 0.04, 0.03, 0.01]
    const mean = codeDepths(weights).reduce((sum, depth, index) => sum + depth * weights[index]!, 0)
    expect(mean).toBeCloseTo(3.42, 9)
  })
  test('one box: as few rounds as an exhaustive search, up to eight breakers, whatever the labels say', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 2, maxLength: 8 }), (weights) => {
        const one = load('box', weights, { pairs: false })
        const least = exhaustive([one.hypotheses.map((hypothesis) => hypothesis.weight)], weights.length)
        expect(planned([one], weights.length)).toBeLessThanOrEqual(least * 1.0001)
      }),
      { seed: 7, numRuns: 12 },
    )
  })
  test('two and three boxes at once: within a tenth of an exhaustive search', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 3 }).chain((boxes) =>
          fc.array(fc.array(fc.integer({ min: 1, max: 20 }), { minLength: boxes === 2 ? 5 : 4, maxLength: boxes === 2 ? 5 : 4 }), {
            minLength: boxes,
            maxLength: boxes,
          }),
        ),
        (table) => {
          const loads = table.map((weights, index) => load(`box ${index}`, weights, { pairs: false }))
          const least = exhaustive(
            loads.map((one) => one.hypotheses.map((hypothesis) => hypothesis.weight)),
            table[0]!.length,
          )
          expect(planned(loads, table[0]!.length)).toBeLessThanOrEqual(least * 1.1)
        },
      ),
      { seed: 11, numRuns: 15 },
    )
  })
  test('many lights on and a person in the rooms: the whole home in about log2(n) rounds', () => {
    for (const count of [6, 12, 24]) {
      const names = ids(count)
      const loads = Array.from({ length: count }, (_, index) =>
        load(
          `box ${index}`,
          names.map(() => 1),
        ),
      )
      const truth = Object.fromEntries(loads.map(({ boxId }, index) => [boxId, [names[(index * 7) % count]!]]))
      const { toFind, beliefs } = play(loads, count, truth)
      // One more than the binary digits of n at most; "none of them" is a value of its own.
      expect(toFind).toBeLessThanOrEqual(Math.ceil(Math.log2(count + 1)) + 1)
      for (const belief of beliefs) expect([belief.breakerIds, belief.status]).toEqual([truth[belief.boxId], 'confirmed'])
    }
  })
})

describe('what the rounds say', () => {
  const weights = [5, 1, 1, 1, 1, 1]
  test('two breakers for one box, and none of this panel, are found too', () => {
    const loads = [load('two', weights), load('none', weights), load('one', weights)]
    const { beliefs } = play(loads, 6, { two: ['b2', 'b5'], none: [], one: ['b6'] })
    expect(beliefs.map((belief) => [belief.boxId, [...belief.breakerIds].sort(), belief.status])).toEqual([
      ['two', ['b2', 'b5'], 'confirmed'],
      ['none', [], 'confirmed'],
      ['one', ['b6'], 'confirmed'],
    ])
  })
  test('confirmed is never wrong with one wrong observation, whichever it is; what fits nothing is looked at again', () => {
    let repeats = 0
    for (let truth = 0; truth < 6; truth++)
      for (let at = 0; at < 8; at++) {
        const { beliefs, rounds } = play([load('box', weights)], 6, { box: [`b${truth + 1}`] }, (round) => round === at)
        const [belief] = beliefs
        if (belief!.status === 'confirmed') expect(belief!.breakerIds).toEqual([`b${truth + 1}`])
        const sets = rounds.map((round) => round.open.join())
        repeats += sets.length - new Set(sets).size
      }
    expect(repeats).toBeGreaterThan(10)
  })
  test('a breaker that may not be moved is never proposed', () => {
    const one = load('box', [1, 1, 1])
    const only = { ...problem([one], 3), breakers: [{ id: 'b1', cost: 0 }] }
    expect(nextRound(only)!.open).toEqual(['b1'])
  })
  test('between equals the cheaper set: what drops the router stays on', () => {
    const costly = {
      ...problem([load('box', [1, 1], { pairs: false, none: 0 })], 2),
      breakers: [
        { id: 'b1', cost: 3 },
        { id: 'b2', cost: 0 },
      ],
    }
    expect(nextRound(costly)!.open).toEqual(['b2'])
  })
})

describe('at a site', () => {
  const boxes = (scenario: Scenario) => [scenario.box('door').id, scenario.box('stair').id]
  const close = (scenario: Scenario, number: string) => {
    const grantId = scenario.newId()
    const breakerId = scenario.breaker(number).id
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId, clearanceId: null }))
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
  }
  test('tagged and off-limits breakers stay; open boxes stop it', () => {
    const scenario = new Scenario()
    expect(tracingAt(scenario.site, boxes(scenario)).obstacles).toEqual([])
    scenario.must(scenario.submitSite({ type: 'markOffLimits', breakerId: scenario.breaker('2').id, reason: 'medical device' }))
    scenario.openAndTag(['1'])
    const tracing = tracingAt(scenario.site, boxes(scenario))
    const stays = Object.fromEntries(tracing.breakers.map((one) => [one.breaker.number, one.stays]))
    expect(stays['1']).toBe('tag of AT')
    expect(stays['2']).toBe('off limits: medical device')
    expect(tracing.problem.breakers.map((one) => one.id)).not.toContain(scenario.breaker('1').id)
    scenario.conductors('door')
    expect(tracingAt(scenario.site, boxes(scenario)).obstacles[0]).toContain('close it up first')
  })
  test('rounds are stored with the breakers that the record has open, and fill the directory', () => {
    const scenario = new Scenario()
    const [door] = boxes(scenario)
    const truth = scenario.breaker('1').id
    for (let step = 0; step < 12; step++) {
      const { next } = tracingAt(scenario.site, [door!])
      if (!next) break
      for (const breaker of Object.values(scenario.site.breakers).filter((one) => one.role === 'branch')) {
        const open = next.open.includes(breaker.id)
        if (open && breaker.state === 'closed')
          scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: breaker.id, state: 'open', how: 'did', note: '' }))
        if (!open && breaker.state === 'open') close(scenario, breaker.number)
      }
      scenario.must(scenario.submitSite({ type: 'observeRound', seen: { [door!]: next.open.includes(truth) ? 'off' : 'on' } }))
    }
    expect(beliefsAt(scenario.site).get(door!)).toMatchObject({ status: 'confirmed', breakerIds: [truth] })
    const line = directoryOf(scenario.site).lines.find((one) => one.number === '1')!
    expect(line.serves.find((one) => one.boxId === door)).toMatchObject({ known: 'confirmed' })
    scenario.must(scenario.submitSite({ type: 'forgetRounds', reason: 'rewired since' }))
    expect(directoryOf(scenario.site).lines.find((one) => one.number === '1')!.serves[0]!.known).toBe('as found')
  })
  test('a round seen wrong is taken back, once; the boxes that are traced are the same on every phone', () => {
    const scenario = new Scenario()
    const [door, stair] = boxes(scenario)
    const refusedWith = (answer: ReturnType<typeof scenario.submitSite>) => (answer.ok ? 'ok' : answer.refusal.code)
    expect(refusedWith(scenario.submitSite({ type: 'takeBackRound', round: 1 }))).toBe('noRound')
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', how: 'did', note: '' }))
    scenario.must(scenario.submitSite({ type: 'observeRound', seen: { [stair!]: 'off' } }))
    scenario.must(scenario.submitSite({ type: 'takeBackRound', round: 1 }, crew.ben))
    expect(scenario.site.huntRounds).toEqual([])
    expect(refusedWith(scenario.submitSite({ type: 'takeBackRound', round: 1 }))).toBe('noRound')
    scenario.must(scenario.submitSite({ type: 'scopeTracing', boxIds: [door!, stair!] }))
    expect(scenario.site.huntScope).toEqual([door, stair])
    expect(refusedWith(scenario.submitSite({ type: 'scopeTracing', boxIds: [scenario.newId()] }))).not.toBe('ok')
    scenario.must(scenario.submitSite({ type: 'scopeTracing', boxIds: [] }, crew.ben))
    expect(scenario.site.huntScope).toBeUndefined()
  })
  test('two lamps in one box: one out and one on says that two breakers feed it', () => {
    const ids = ['a', 'b', 'c']
    const hypotheses = [
      ...ids.map((id) => ({ breakerIds: [id], weight: 1 })),
      { breakerIds: [], weight: 0.1 },
      { breakerIds: ['a', 'b'], weight: 0.1 },
      { breakerIds: ['b', 'c'], weight: 0.1 },
    ]
    const believed = beliefOf({ boxId: 'x', hypotheses }, [
      { open: ['a'], seen: { x: 'part' } },
      { open: ['a', 'b'], seen: { x: 'off' } },
    ])
    expect(believed).toMatchObject({ breakerIds: ['a', 'b'] })
    expect(['found', 'confirmed']).toContain(believed.status)
  })
  test('breakers that moved since one looked: look again; a light on with its feed open is a sign of power', () => {
    const scenario = new Scenario()
    const early = scenario.site.seq
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state: 'open', how: 'did', note: '' }))
    const [door] = boxes(scenario)
    scenario.basedOnSeq = early
    const old = scenario.submitSite({ type: 'observeRound', seen: { [door!]: 'on' } })
    expect(old.ok ? 'ok' : old.refusal.code).toBe('stillMoving')
    scenario.basedOnSeq = null
    scenario.must(scenario.submitSite({ type: 'observeRound', seen: { [door!]: 'on' } }, crew.ben))
    expect(scenario.box('door').liveSeq).toBe(scenario.site.seq)
  })
})
