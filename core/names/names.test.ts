import { Chance } from '../chance'
import {
  areConfused,
  findingsOf,
  habits,
  heardAs,
  issueOf,
  labelSheets,
  misheardBy,
  movedBy,
  nameClashes,
  namesFor,
  renameHome,
  soundsOfWord,
  strays,
  unlike,
  wordsOf,
  type Habit,
  type Heard,
  type Place,
} from '.'
import { pronounce } from './testing/dictionary'
import { judgedPairs } from './testing/judged-pairs'

const heard = (name: string, room = '') => heardAs({ id: `${room}/${name}`, name, room }, pronounce)
/** Habits in which saying the name of one moves the other. */
const confusedBy = (one: Heard, other: Heard): Habit[] =>
  habits.filter((habit) => movedBy(one, [one, other], habit).includes(other) || movedBy(other, [one, other], habit).includes(one))
const place = (id: string, name: string, room: string, point: string, at = '', thing = 'light'): Place => ({
  ...{ id, name, room, point, at, thing },
})

describe('names in one home', () => {
  test('the same, whatever the case and the dashes', () =>
    expect(nameClashes('Hall Light', ['hall-light']).map((clash) => clash.kind)).toEqual(['same']))
  test('contained names switch two devices with one phrase: the trade’s example “landing” / “landing 2”', () => {
    expect(nameClashes('landing 2', ['landing'])[0]).toMatchObject({ kind: 'contained', other: 'landing' })
    expect(nameClashes('landing', ['landing 2'])[0]).toMatchObject({ kind: 'contained' })
    // Spoken alike.
    expect(nameClashes('landing two', ['landing 02'])[0]).toMatchObject({ kind: 'same' })
  })
  test('the same words in another order, and one for many', () => {
    expect(nameClashes('window light', ['light window'])[0]).toMatchObject({ kind: 'contained' })
    expect(nameClashes('kitchen lights', ['kitchen light'])[0]!.sentence).toBe(
      '“kitchen lights” and “kitchen light” are heard as one name.',
    )
  })
  test('words decide, not letters', () => expect(nameClashes('net loft', ['internet lofty'])).toEqual([]))
  test('a name that cannot be spoken', () => expect(nameClashes('!!', ['x'])[0]!.kind).toBe('unspeakable'))
})

describe('words as they are heard', () => {
  test('numbers, ordinals, articles, many and one', () => {
    expect(wordsOf('The Landing Two')).toEqual(wordsOf('landing 02'))
    expect(wordsOf('1st floor')).toEqual(wordsOf('first floor'))
    expect(wordsOf('Bee’s boxes, dishes & glasses')).toEqual(['bee', 'box', 'dish', 'glass'])
    // Of a name that is nothing but an article something stays.
    expect(wordsOf('The')).toEqual(['the'])
    for (const word of ['glass', 'bus', 'iris']) expect(wordsOf(word)).toEqual([word])
  })
})

describe('sounds', () => {
  // Entries of the CMU Pronouncing Dictionary 0.7b (Carnegie Mellon University), as they are printed there.
  test.each([
    ['light', 'L AY T'],
    ['stair', 'S T EH R'],
    ['kitchen', 'K IH CH AH N'],
    ['cellar', 'S EH L ER'],
  ])('%s is %s', (word, sounds) => expect(soundsOfWord(word, pronounce).join(' ')).toBe(sounds))
  test('words that sound the same are no way apart', () => {
    for (const [one, other] of [
      ['pier', 'peer'],
      ['stair', 'stare'],
      ['cellar', 'seller'],
      ['one', 'won'],
    ] as const)
      expect(misheardBy(soundsOfWord(one, pronounce), soundsOfWord(other, pronounce))).toBe(0)
  })
  test('one that no dictionary has is two of its words, its number, or its letters', () => {
    expect(soundsOfWord('netloft', pronounce).join(' ')).toBe('N EH T L AO F T')
    expect(soundsOfWord('42', pronounce).join(' ')).toBe('F AO R T IY T UW')
    expect(soundsOfWord('105', pronounce)).toEqual(['one', 'zero', 'five'].flatMap((word) => pronounce(word)!))
    expect(soundsOfWord('quoch', pronounce).join(' ')).toBe('K W AA CH')
    expect(soundsOfWord('flür', pronounce).length).toBeGreaterThan(2)
    expect(soundsOfWord('зал', pronounce)).toEqual([])
  })
  test('how unlike: the same is nothing, voice alone little, both ways equal, never less by a detour over a third word’s sounds', () => {
    const chance = new Chance(3)
    const words = ['light', 'hall', 'kitchen', 'porch', 'perch', 'den', 'ten', 'bath', 'path', 'stair', 'loft']
    expect(unlike('P', 'B')).toBeLessThan(unlike('P', 'K'))
    expect(unlike('IY', 'IH')).toBeLessThan(unlike('IY', 'AA'))
    for (let turn = 0; turn < 60; turn++) {
      const [a, b] = [chance.pick(words), chance.pick(words)].map((word) => soundsOfWord(word, pronounce))
      expect(misheardBy(a!, b!)).toBeCloseTo(misheardBy(b!, a!), 9)
      expect(misheardBy(a!, a!)).toBe(0)
      expect(misheardBy([...a!, ...b!], b!)).toBeLessThanOrEqual(misheardBy(a!, []) + 1e-9)
    }
  })
})

describe('forty pairs that were judged by ear first', () => {
  test.each(judgedPairs)('%s / %s', (one, other, confused) => {
    const [a, b] = [heard(one, 'a room'), heard(other, 'another room')]
    expect([areConfused(a, b), areConfused(b, a), confusedBy(a, b).length > 0]).toEqual([confused, confused, confused])
  })
})

describe('a name by itself', () => {
  test.each([
    ['', 'nothing'],
    ['☀️', 'nothing'],
    ['кухня', 'script'],
    ['开关', 'script'],
    ['off light', 'reserved'],
    ['Everything', 'reserved'],
    ['music', 'reserved'],
    ['music room light', null],
    ['3', 'number'],
    ['wall switch', 'bare'],
    ['Lamp 2', 'bare'],
    ['net loft window light', null],
    ['café light', null],
    ['nook · lamp', null],
  ] as const)('%s: %s', (name, issue) => expect(issueOf(name)).toBe(issue))
})

describe('what one phrase moves', () => {
  const home = [
    { id: '1', name: 'landing', room: 'upstairs' },
    { id: '2', name: 'landing 2', room: 'upstairs' },
    { id: '3', name: 'kitchen', room: 'kitchen' },
    { id: '4', name: 'window light', room: 'kitchen' },
    { id: '5', name: 'kitchen door light', room: 'hall' },
    { id: '6', name: 'porch light', room: 'outside' },
  ]
  const found = findingsOf(home, pronounce)
  const of = (phrase: string) => found.find((one) => one.phrase === phrase)
  test('“landing” moves “landing 2” for those who take whatever holds it', () => {
    expect(of('landing')).toMatchObject({ id: '1', habits: ['whatever holds it'], wrong: [{ id: '2', near: 'contained' }] })
    expect(of('landing 2')).toBeUndefined()
  })
  test('a device that is called like its room moves the room', () =>
    expect(of('kitchen')!.wrong.map(({ id, near }) => `${id} ${near}`)).toEqual(expect.arrayContaining(['4 room', '5 contained'])))
  test('a room that is part of a name elsewhere moves what is not in it', () =>
    expect(
      findingsOf([{ id: 'a', name: 'window light', room: 'hall' }, home[4]!, { ...home[5]!, name: 'hall porch light' }], pronounce),
    ).toMatchObject([{ phrase: 'hall', id: null, wrong: [{ id: '6' }] }]))
  test('the worst first; a home without trouble has none', () => {
    expect(found.map(({ habits }) => habits.length)).toEqual(found.map(({ habits }) => habits.length).sort((a, b) => b - a))
    expect(findingsOf([home[3]!, home[5]!], pronounce)).toEqual([])
    expect(findingsOf([], pronounce)).toEqual([])
  })
  test('who is confused with whom in a home of two is what the phrases say', () => {
    const chance = new Chance(11)
    const names = [
      'hall',
      'hall light',
      'light hall',
      'whole light',
      'kitchen',
      'kitchen light',
      'porch',
      'porch light',
      'den',
      'ten light',
    ]
    const rooms = ['hall', 'kitchen', 'porch', '']
    for (let turn = 0; turn < 400; turn++) {
      const [a, b] = ['a', 'b'].map((id) => heardAs({ id, name: chance.pick(names), room: chance.pick(rooms) }, pronounce))
      expect(confusedBy(a!, b!).length > 0).toBe(areConfused(a!, b!))
      const said = findingsOf([a!, b!], pronounce).filter(({ id }) => id)
      expect(said.length > 0).toBe(areConfused(a!, b!))
    }
  })
})

describe('better names', () => {
  test('the trade’s example: one of two is renamed by what is known of it, the other stays', () => {
    const { renames, left } = renameHome(
      [
        place('1', 'landing', 'Upstairs', 'landing light', 'stair head'),
        place('2', 'landing 2', 'Upstairs', 'window light', 'nook arch'),
        place('3', 'porch light', 'Outside', 'porch light'),
      ],
      pronounce,
    )
    expect(left).toEqual([])
    expect(renames).toHaveLength(1)
    expect(renames[0]!.to).toMatch(/^(upstairs|landing|window|stair|nook)/)
  })
  test('names that are fine stay; those that say nothing get one', () => {
    const fine = [place('1', 'net loft light', 'Net loft', 'light'), place('2', 'porch light', 'Outside', 'porch light')]
    expect(renameHome(fine, pronounce)).toEqual({ renames: [], left: [] })
    expect(renameHome([place('1', 'wall switch', 'Net loft', 'light'), fine[1]!], pronounce).renames).toEqual([
      { id: '1', from: 'wall switch', to: 'net loft light' },
    ])
  })
  test('no name is made of a room that is another one; a room within a room’s name is its own', () => {
    const { renames, left } = renameHome(
      [
        place('1', 'wall switch', 'Kitchen', '', 'hall door'),
        place('2', 'hall lamp', 'Kitchen', 'wall lamp'),
        place('3', 'porch light', 'Hall', 'light'),
      ],
      pronounce,
    )
    expect(left).toEqual([])
    expect(renames.map(({ id, to }) => [id, /hall/i.test(to)])).toEqual([
      ['1', false],
      ['2', false],
    ])
    const within = [place('1', 'upstairs hall light', 'Upstairs hall', 'light'), place('2', 'porch light', 'Hall', 'light')]
    expect(renameHome(within, pronounce)).toEqual({ renames: [], left: [] })
  })
  test('what another job named stays as it is: the own one gives way', () => {
    const theirs = { ...place('1', 'net loft light', 'Net loft', 'light'), fixed: true as const }
    const { renames, left } = renameHome([theirs, place('2', 'net loft', 'Net loft', 'window light')], pronounce)
    expect([renames.map(({ id }) => id), left]).toEqual([['2'], []])
  })
  test('where nothing that is known tells two apart, it is said', () => {
    const twin = (id: string) => ({ ...place(id, 'x', '', '', '', ''), name: 'tide' })
    expect(renameHome([twin('1'), twin('2')], pronounce)).toEqual({ renames: [], left: [{ ids: ['1', '2'] }] })
  })
  test('no fewer changes would do: compared with trying every set of names, in 150 small homes', () => {
    const chance = new Chance(16)
    const [rooms, points, boxes] = [
      ['Hall', 'Net loft', 'Kitchen'],
      ['window light', 'light', 'door light'],
      ['stair head', 'arch', 'door'],
    ]
    let solved = 0
    for (let turn = 0; turn < 150; turn++) {
      const places = Array.from({ length: 2 + chance.int(2) }, (_, index) => {
        const room = chance.pick(rooms)
        const name = chance.pick(['hall', 'hall light', 'light', 'landing', 'landing 2', room, 'window light'])
        return place(String(index), name, room, chance.pick(points), chance.pick(boxes))
      })
      const options = places.map((one) => namesFor(one).map((name) => heardAs({ ...one, name }, pronounce)))
      const here = places.map(({ room }) => wordsOf(room))
      const pairs = new Map<string, boolean>()
      const apart = (one: Heard, other: Heard) => {
        const key = `${one.id} ${one.name}/${other.id} ${other.name}`
        if (!pairs.has(key)) pairs.set(key, areConfused(one, other))
        return !pairs.get(key)
      }
      // Every set of names there is, one after the other.
      let fewest = Infinity
      const all = (chosen: (typeof options)[number]): void => {
        const at = chosen.length
        if (at < options.length) return options[at]!.forEach((name) => all([...chosen, name]))
        if (
          chosen.some((one) => issueOf(one.name) || strays(one, here)) ||
          chosen.some((one, i) => chosen.some((other, j) => i < j && !apart(one, other)))
        )
          return
        fewest = Math.min(fewest, chosen.filter((one, index) => one !== options[index]![0]).length)
      }
      all([])
      const { renames, left } = renameHome(places, pronounce)
      if (fewest === Infinity) expect(left.length).toBeGreaterThan(0)
      else {
        solved++
        expect([left, renames.length]).toEqual([[], fewest])
      }
    }
    expect(solved).toBeGreaterThan(100)
  })
  test('what comes out is never confused, by the phrases themselves', () => {
    const chance = new Chance(60)
    const rooms = [
      'Hall',
      'Kitchen',
      'Net loft',
      'Sail room',
      'Tide room',
      'Porch',
      'Cellar',
      'Attic',
      'Office',
      'Print shop',
      'Nook',
      'Barn',
    ]
    const places = Array.from({ length: 60 }, (_, index) => {
      const room = rooms[index % rooms.length]!
      return place(
        String(index),
        chance.is(0.4) ? `switch ${index}` : `${room} light`,
        room,
        chance.pick(['window light', 'light', 'wall light']),
        '',
      )
    })
    const { renames, left } = renameHome(places, pronounce)
    const to = new Map(renames.map((one) => [one.id, one.to]))
    const named = places.map((one) => ({ ...one, name: to.get(one.id) ?? one.name }))
    const bad = findingsOf(named, pronounce).filter(({ id }) => id)
    const known = new Set(left.flatMap(({ ids }) => ids))
    expect(bad.flatMap(({ id, wrong }) => [id!, ...wrong.map((one) => one.id)]).filter((id) => !known.has(id))).toEqual([])
    expect(renames.length).toBeGreaterThan(20)
  })
})

describe('labels for the wall', () => {
  test('thirty to a sheet, on either paper, names escaped and set small enough', () => {
    const labels = Array.from({ length: 31 }, (_, index) => ({
      name: index ? `light ${index}` : 'a <b>& “very long name of a light” there',
      where: 'Hall · door',
    }))
    const sheets = labelSheets(labels, 'a4')
    expect(sheets.map((sheet) => sheet.match(/<rect /g)!.length)).toEqual([30, 1])
    expect(sheets[0]).toContain('viewBox="0 0 210 297"')
    expect(sheets[0]).toContain('a &#60;b&#62;&#38; “very')
    expect(labelSheets(labels, 'letter')[0]).toContain('width="215.9mm" height="279.4mm"')
    expect(labelSheets([], 'a4')).toEqual([])
  })
})
