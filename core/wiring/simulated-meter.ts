import type { Chance } from '../chance'
import type { AsFoundBox, WireReading, WireTest } from './identify/found-box'
import { continuityMeter, solveHome, type HomeSolution } from './home'
import type { Wiring } from './model'

/** A meter somebody holds in the box: a real one, whose values are typed, or the simulated one that ships. */
export interface BoxMeter {
  read(test: WireTest): WireReading
}

/**
 * The simulated meter, continuity tester and non-contact tester, at a truly wired box. Other switches are the parts `far0`, `far1`.
 * @param chance noise of the instrument: ±3 % of a voltage, some tenths of an ohm in the leads
 * @param wrongShare share of readings that are misread
 */
export class SimulatedMeter implements BoxMeter {
  private readonly homes = new Map<string, HomeSolution>()
  private readonly buzzers = new Map<string, ReturnType<typeof continuityMeter>>()
  misread = 0
  constructor(
    private readonly apart: Wiring,
    private readonly chance: Chance,
    private readonly wrongShare = 0,
    /** The box as found: needed to read with the old switches attached. */
    private readonly found: AsFoundBox | null = null,
  ) {}
  /** The home with the old switches on their conductors. */
  private attached(): Wiring {
    const parts = (this.found?.oldSwitches ?? []).flatMap(({ contacts }, index) =>
      contacts === 'other' ? [] : [{ id: `old${index + 1}`, kind: 'switch' as const, contacts }],
    )
    const joins = (this.found?.oldSwitches ?? []).flatMap(({ terminals }, index) =>
      Object.entries(terminals).map(([name, letters]) => [`old${index + 1}:${name}`, ...letters.map((letter) => `${letter}.near`)]),
    )
    return { ...this.apart, parts: [...this.apart.parts, ...parts], joins: [...this.apart.joins, ...joins] }
  }
  private trueValue(test: WireTest): number {
    const key = `${test.closed.join('+')} ${test.far.join('')} ${test.old?.join('') ?? ''}`
    const wiring = test.old ? this.attached() : this.apart
    const positions = Object.fromEntries([
      ...test.far.map((position, index) => [`far${index}`, position]),
      ...(test.old ?? []).map((position, index) => [`old${index + 1}`, position]),
    ])
    const point = (end: string) => (end === 'REF' ? 'earth' : `${end}.near`)
    if (test.kind === 'continuity') {
      let buzzer = this.buzzers.get(key)
      if (!buzzer) this.buzzers.set(key, (buzzer = continuityMeter(wiring, positions)))
      return Math.min(1e9, buzzer(point(test.a), point(test.b)) + 0.1 + this.chance.next() * 0.3)
    }
    let home = this.homes.get(key)
    if (!home) {
      const answer = solveHome(wiring, { closed: test.closed, positions })
      if (!answer.ok) throw new Error(answer.sentence)
      this.homes.set(key, (home = answer.home))
    }
    if (test.kind === 'contactless') return home.contactless(point(test.a)) ? 1 : 0
    return (
      home.metered(point(test.a), point(test.b), test.kind === 'voltageHigh' ? 'high' : 'low') * (1 + (this.chance.next() - 0.5) * 0.06)
    )
  }
  read(test: WireTest): WireReading {
    let value = this.trueValue(test)
    if (this.wrongShare > 0 && this.chance.is(this.wrongShare)) {
      this.misread++
      const volts = this.apart.nominalVolts
      const others =
        test.kind === 'continuity' ? [0.3, 400, 1e9] : test.kind !== 'contactless' ? [0, 0.5 * volts, volts, 2 * volts] : [0, 1]
      value = this.chance.pick(others.filter((other) => Math.abs(other - value) > 0.3 * Math.max(other, value)))
    }
    return { ...test, value }
  }
}
