import type { Chance } from '../../chance'

/**
 * The physical side: levers, locks, conductors, plates, hands, meters. It knows nothing of records, tags in a phone or
 * proofs, and shares no code with the program under test. It says what a meter shows and when somebody is hurt.
 *
 * What it leaves out, because no record could ever know it: a householder who closes an untagged breaker that feeds a
 * box nobody knows about.
 */
export interface Lever {
  name: string
  closed: boolean
  /** The lever above it; null directly under a source. */
  above: string[]
  /** Trips as soon as it is closed, until somebody finds the cause. */
  fault: boolean
  tripped: boolean
  locks: Lock[]
  /** Closed by somebody with a permit, and not moved since. */
  byLeave: boolean
  /** Of a source: it gives power only while this lever is open (a battery that takes over when the main opens). */
  startsWhenOpen?: string
  /** When it was last closed. */
  closedAt?: number
}
export interface Lock {
  tagId: string
  owner: string
  /** A lock blocks the lever; a measure (door locked, notice) only keeps householders away. */
  kind: 'lock' | 'measure'
  company: boolean
  /** The server has acknowledged its tag, and its owner knows. */
  counted: boolean
  /** Its lever was closed under it, and its owner has not looked at it since. */
  beaten?: boolean
}
export interface WorldConductor {
  letter: string
  /** The lever that feeds it, if any. */
  from: string | null
  /** Only through the far switch in this position. */
  onlyIn: 'up' | 'down' | null
  /** Fed through a bad joint: a low-impedance meter pulls it down to this, V. A hand still feels it. */
  weakVolts: number | null
  neutral: boolean
  /** Behind the old device, seen only when it is pulled. */
  hidden: boolean
  /** Only while a timer, photocell or relay lets it: until somebody finds it and keeps it off. */
  timer: 'on' | 'off' | 'defeated' | null
}
export interface WorldBox {
  name: string
  conductors: WorldConductor[]
  plate: 'on' | 'off' | 'guarded'
  /** Who capped its ends and stands for them. */
  guard: string | null
  /** The server has been told that it is off. */
  plateSaid: boolean
  /** good, broken (shows nothing), floats (coupled voltage by high impedance), or breaks after it was seen good. */
  ground: 'good' | 'broken' | 'floats' | 'breaks'
  groundSeen: boolean
  far: 'up' | 'down' | null
  /** Another circuit returns through this neutral: parted, its end is live while that lever is closed. */
  borrowedFrom: string | null
  partedLive: boolean
  partedTested: boolean
  /** A stray feed from next door that nobody has on any list. */
  stray: boolean
  /** Somebody has seen the timer's lamp and said so. */
  timerSeen: boolean
  lastLive: number
}
export interface Meter {
  id: string
  /** sleeps: shows nothing for the first readings; fails: shows nothing from some reading on; drifts: sometimes nothing. */
  kind: 'good' | 'dead' | 'sleeps' | 'fails' | 'drifts'
  range: 'both' | 'high' | 'low' | 'twoPole'
  readings: number
  turnsAt: number
}

export interface Harm {
  at: number
  what: string
  who: string
}

export class World {
  levers = new Map<string, Lever>()
  boxes = new Map<string, WorldBox>()
  now = 0
  harms: Harm[] = []
  hands = new Map<string, string>()
  /** What the neutral of a loaded feeder carries against earth here, V. */
  shiftVolts = 0

  constructor(private readonly chance: Chance) {}

  harm(what: string, who: string): void {
    this.harms.push({ at: this.now, what, who })
  }

  private feeds(name: string, seen = new Set<string>()): boolean {
    const lever = this.levers.get(name)
    if (!lever || !lever.closed || seen.has(name)) return false
    if (lever.above.length === 0) return lever.startsWhenOpen === undefined || !this.levers.get(lever.startsWhenOpen)!.closed
    seen.add(name)
    return lever.above.some((upper) => this.feeds(upper, seen))
  }
  isFed(lever: string): boolean {
    return this.feeds(lever)
  }

  private potential(box: WorldBox, conductor: WorldConductor): number {
    if (box.stray && !conductor.neutral) return 120
    if (conductor.neutral) return box.partedLive && box.borrowedFrom !== null && this.feeds(box.borrowedFrom) ? 120 : this.shiftVolts
    if (conductor.from === null || !this.feeds(conductor.from)) return 0
    if (conductor.timer !== null && conductor.timer !== 'on') return 0
    return conductor.onlyIn === null || conductor.onlyIn === box.far ? 120 : 0
  }
  /** Is there voltage on anything a hand in this box can reach? `levers`: only through one of these. */
  isLive(name: string, levers: string[] | null = null): boolean {
    const box = this.boxes.get(name)!
    return box.conductors.some(
      (conductor) =>
        !conductor.hidden &&
        this.potential(box, conductor) > 50 &&
        (levers === null || (conductor.from !== null && levers.includes(conductor.from))),
    )
  }

  private show(meter: Meter, volts: number): number {
    meter.readings++
    if (meter.kind === 'dead') return 0
    if (meter.kind === 'sleeps' && meter.readings <= meter.turnsAt) return 0
    if (meter.kind === 'fails' && meter.readings > meter.turnsAt) return 0
    if (meter.kind === 'drifts' && volts < 200 && this.chance.is(0.6)) return 0
    return volts
  }
  /** The meter on a proving unit. */
  readProvingUnit(meter: Meter): number {
    return this.show(meter, 240)
  }
  /** The meter on a socket behind a lever. */
  readSocket(meter: Meter, lever: string): number {
    return this.show(meter, this.feeds(lever) ? 120 : 0)
  }
  private isEarth(name: string, which: 'boxGround' | 'wanderLead'): boolean {
    const box = this.boxes.get(name)!
    const good = which === 'wanderLead' || box.ground === 'good' || (box.ground === 'breaks' && !box.groundSeen)
    box.groundSeen = true
    return good
  }
  /** Reference, line and neutral of a live point on this lever, among each other, by low impedance. */
  readLivePoint(meter: Meter, name: string, which: 'boxGround' | 'wanderLead', lever: string) {
    const earth = this.isEarth(name, which)
    const line = this.feeds(lever) ? 120 : 0
    return {
      lineToNeutral: this.show(meter, line),
      referenceToLine: this.show(meter, earth ? line : 0),
      referenceToNeutral: this.show(meter, earth ? this.shiftVolts : 0),
    }
  }
  /** Ohms from the reference to the earth bar at the panel. */
  readEarth(name: string, which: 'boxGround' | 'wanderLead'): number {
    return this.isEarth(name, which) ? 0.5 : 1_000_000
  }
  /** A conductor against the neutral of the live point. */
  readToNeutral(meter: Meter, name: string, letter: string): number {
    const box = this.boxes.get(name)!
    const one = box.conductors.find((conductor) => conductor.letter === letter && !conductor.hidden)
    return one ? this.show(meter, Math.abs(this.potential(box, one) - this.shiftVolts)) : 0
  }
  read(
    meter: Meter,
    name: string,
    a: string,
    b: string,
    reference: 'boxGround' | 'wanderLead',
    impedance: 'high' | 'low' | 'steps',
  ): number {
    const box = this.boxes.get(name)!
    const at = (letter: string) => box.conductors.find((conductor) => conductor.letter === letter && !conductor.hidden)
    const one = at(a)
    const other = b === 'REF' ? null : at(b)
    if (!one || (b !== 'REF' && !other)) return 0
    if (b === 'REF' && reference === 'boxGround' && box.ground !== 'good' && (box.ground !== 'breaks' || box.groundSeen))
      // A floating ground hangs at some coupled voltage: a high-impedance meter shows the difference to it.
      return this.show(meter, box.ground === 'floats' && impedance === 'high' ? 58 : 0)
    const va = this.potential(box, one)
    const vb = other ? this.potential(box, other) : 0
    // A conductor that hangs free follows a shifted neutral through the meter; one that is earthed does not.
    const free = (conductor: WorldConductor | null | undefined) =>
      conductor && conductor.from !== null && this.potential(box, conductor) === 0
    const shifted = Math.abs(va - vb) <= this.shiftVolts && (free(one) || free(other))
    const volts = shifted ? 0 : Math.abs(va - vb)
    const weak = va > 0 ? one.weakVolts : vb > 0 ? (other?.weakVolts ?? null) : null
    // A two-pole detector lights the step below.
    const loaded = impedance !== 'high' && weak !== null ? weak : volts
    if (volts > 0)
      return this.show(meter, impedance === 'steps' ? (loaded >= 120 ? 120 : loaded >= 50 ? 50 : loaded >= 12 ? 12 : 0) : loaded)
    // An idle conductor picks up voltage from its cable; only a high-impedance meter shows it.
    const idle = va === 0 && one.from !== null && !one.neutral
    return this.show(meter, idle && impedance === 'high' && this.chance.is(0.3) ? (this.chance.is(0.3) ? 70 : 14) : 0)
  }
  clampAmps(name: string): number {
    const { borrowedFrom } = this.boxes.get(name)!
    return borrowedFrom !== null && this.feeds(borrowedFrom) ? 1.8 : 0
  }

  /** Moves a lever. Locks hold it; it trips on a fault. Returns what happened. */
  close(name: string): 'closed' | 'blocked' | 'tripped' {
    const lever = this.levers.get(name)!
    if (lever.locks.some((lock) => lock.kind === 'lock')) return 'blocked'
    if (lever.fault) {
      if (lever.tripped) this.harm('closed again on a fault nobody looked for', name)
      lever.closedAt = this.now
      lever.tripped = true
      lever.closed = false
      return 'tripped'
    }
    lever.closed = true
    lever.closedAt = this.now
    lever.tripped = false
    this.look()
    return 'closed'
  }
  open(name: string): boolean {
    const lever = this.levers.get(name)!
    if (lever.closed && lever.locks.some((lock) => lock.kind === 'lock')) return false
    lever.closed = false
    lever.tripped = false
    lever.byLeave = false
    return true
  }
  hang(name: string, lock: Lock): void {
    const lever = this.levers.get(name)!
    if (lever.closed) this.harm('a lock hung on a closed lever', lock.owner)
    lever.locks.push(lock)
  }
  /** Somebody closes a lever that only a note protects: whatever hangs there did not hold it. */
  beat(name: string): void {
    for (const lock of this.levers.get(name)!.locks) lock.beaten = true
  }
  unhang(tagId: string): void {
    for (const lever of this.levers.values()) lever.locks = lever.locks.filter((lock) => lock.tagId !== tagId)
  }

  /** Hurt hands, and when each box was last live. Called after everything that can move power or hands. */
  look(): void {
    for (const box of this.boxes.values()) if (this.isLive(box.name)) box.lastLive = this.now
    for (const [who, name] of this.hands) if (this.isLive(name)) this.harm('HAND ON AN ENERGISED CONDUCTOR', `${who} in ${name}`)
  }
}
