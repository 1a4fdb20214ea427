import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { clockOf } from '../../units/region'
import { fourOfFiveBy, leavesAt, letterOf, letterPurposes, preparationsFor, runsLate, windowInstead, type LetterFacts } from './index'

const at = (clock: string) => `2026-11-28T${clock}:00.000Z`
const seconds = (clock: string) => Date.parse(at(clock)) / 1000

describe('who runs late', () => {
  test('is said while it still helps: a quarter of an hour before the window ends', () => {
    expect(runsLate(at('11:00'), at('10:45'))).toBe(false)
    expect(runsLate(at('11:00'), at('10:46'))).toBe(true)
    expect(runsLate(at('11:00'), at('12:30'))).toBe(true)
  })
  test('work in hand ends as it is expected, and never in the past', () => {
    expect(leavesAt({ now: seconds('10:00'), work: null })).toBe(seconds('10:00'))
    const work = { since: seconds('09:00'), seconds: 5400, spread: 0.3 }
    expect(leavesAt({ now: seconds('10:00'), work })).toBe(seconds('10:30'))
    // It should have ended half an hour ago: at least a tenth of it is left.
    expect(leavesAt({ now: seconds('11:00'), work })).toBe(seconds('11:09'))
  })
  test('four of five days hold: as a normal deviate says, 0.8416 (NIST/SEMATECH handbook, 1.3.6.7.1)', () => {
    const ahead = { now: seconds('10:00'), work: null }
    // A drive of 100 minutes with a spread of 15 %: 0.8416 × 15 min later.
    expect((fourOfFiveBy(ahead, seconds('11:40')) - seconds('11:40')) / 60).toBeCloseTo(0.8416 * 15, 1)
    const busy = { now: seconds('10:00'), work: { since: seconds('10:00'), seconds: 6000, spread: 0.3 } }
    // 100 min of work at 30 % and 40 min of road at 15 %: √(30² + 6²).
    expect((fourOfFiveBy(busy, seconds('12:20')) - seconds('12:20')) / 60).toBeCloseTo(0.8416 * Math.hypot(30, 6), 1)
  })
  test('a new window holds what is expected, in quarters of an hour, and is none that nobody could keep', () => {
    expect(windowInstead(at('11:22'), at('11:40'))).toEqual({ windowFrom: at('11:15'), windowTo: at('12:00') })
    expect(windowInstead(at('11:22'), at('12:20'))).toEqual({ windowFrom: at('11:15'), windowTo: at('12:30') })
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 86_400 }), fc.integer({ min: -600, max: 14_400 }), (start, more) => {
        const expected = new Date(Date.parse(at('00:00')) + start * 1000).toISOString()
        const four = new Date(Date.parse(expected) + more * 1000).toISOString()
        const { windowFrom, windowTo } = windowInstead(expected, four)
        expect(Date.parse(windowFrom)).toBeLessThanOrEqual(Date.parse(expected))
        expect(Date.parse(windowTo)).toBeGreaterThanOrEqual(Math.max(Date.parse(expected), Date.parse(four)))
        expect(Date.parse(windowTo) - Date.parse(windowFrom)).toBeGreaterThanOrEqual(45 * 60_000)
        expect([Date.parse(windowFrom) % 900_000, Date.parse(windowTo) % 900_000]).toEqual([0, 0])
        // Nothing is promised that is about to be broken again.
        expect(runsLate(windowTo, expected)).toBe(false)
      }),
    )
  })
})

describe('what is written', () => {
  const facts: LetterFacts = {
    company: 'Wick & Latch',
    kind: 'install',
    crew: ['Bram', 'Pip'],
    windowFrom: at('15:00'),
    windowTo: at('17:00'),
    expectedAt: at('16:10'),
    link: 'https://example.test/visit/abc',
    telephone: '555 0170',
    region: { zone: 'America/Phoenix', locale: 'en-US' },
  }
  test.each(letterPurposes)('%s: names, link and company, by the clock of the branch', (purpose) => {
    const body = letterOf(purpose, facts)
    expect(body).toContain('https://example.test/visit/abc')
    expect(body).toMatch(/Wick & Latch$/)
    expect(body.length).toBeLessThan(400)
    if (purpose !== 'windows') expect(body).toContain('Bram and Pip')
    // Seven hours behind Greenwich: the window of 15:00 is eight in the morning there, and its last day is another one at midnight.
    if (purpose === 'late' || purpose === 'booked') expect(body).toContain(`between ${clockOf(at('15:00'), facts.region)} and`)
    expect(body).not.toMatch(/undefined|null|\{/)
  })
  test('one person comes, two come; without names our crew does', () => {
    expect(letterOf('onTheWay', { ...facts, crew: ['Bram'] })).toMatch(/^Bram is on the way/)
    expect(letterOf('onTheWay', facts)).toMatch(/^Bram and Pip are on the way/)
    expect(letterOf('onTheWay', { ...facts, crew: [], expectedAt: null })).toMatch(/^Our crew is on the way to you\. /)
  })
  test('the day is the day there', () => {
    const late = { ...facts, windowFrom: '2026-11-29T05:00:00.000Z', windowTo: '2026-11-29T06:00:00.000Z' }
    expect(letterOf('booked', late)).toContain('28')
    expect(letterOf('booked', { ...late, region: { zone: 'UTC', locale: 'en-US' } })).toContain('29')
  })
  test('a survey asks for less than an installation; nobody is asked for an account before a callback', () => {
    const ids = (kind: 'survey' | 'install' | 'callback') => preparationsFor(kind).map(({ id }) => id)
    expect(ids('survey')).toEqual(['adult', 'panel'])
    expect(ids('install')).toEqual(['adult', 'panel', 'mustStay', 'account', 'codeReceiver', 'phone', 'wifi', 'router'])
    expect(ids('callback')).not.toContain('account')
  })
})
