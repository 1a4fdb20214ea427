import {
  between,
  bestPlace,
  bandMHz,
  fitRadio,
  freeSpaceLossDb,
  meshCentreMHz,
  meshChannelPlan,
  nextSpot,
  overlap,
  predict,
  radioGrid,
  radioVerdict,
  residentialLossDb,
  tells,
  wifiCentreMHz,
} from './index'
import { radioHome, readingAt } from './testing/homes'

describe('losses', () => {
  test('ITU-R P.1238-10, residential, 2.4 GHz: L = 20 log f + 28 log d + Lf − 28, worked by hand', () => {
    // 20 log 2437 = 67.737; 28 log 10 = 28: 67.737 + 28 − 28 = 67.74 dB at 10 m; one floor 5 dB more.
    expect(residentialLossDb('2.4', 10, 0)).toBeCloseTo(67.74, 2)
    expect(residentialLossDb('2.4', 10, 1)).toBeCloseTo(72.74, 2)
    // 28 log 5 = 19.571
    expect(residentialLossDb('2.4', 5, 0)).toBeCloseTo(59.31, 2)
    // 20 log 5240 = 74.387
    expect(residentialLossDb('5', 10, 2)).toBeCloseTo(88.39, 2)
  })
  test('free space, ITU-R P.525: 40.2 dB at 1 m and 2.437 GHz, 20 dB more at ten times as far', () => {
    expect(freeSpaceLossDb('2.4', 1)).toBeCloseTo(40.19, 2)
    expect(freeSpaceLossDb('2.4', 10) - freeSpaceLossDb('2.4', 1)).toBeCloseTo(20, 6)
    expect(bandMHz['2.4']).toBe(wifiCentreMHz(6))
  })
})

describe('walls between', () => {
  const rooms = [
    { id: 'a', floor: 0, x: 0, y: 0, width: 4, depth: 4 },
    { id: 'b', floor: 0, x: 4, y: 0, width: 4, depth: 4 },
    { id: 'c', floor: 0, x: 8.1, y: 0, width: 4, depth: 4 },
  ]
  const at = (x: number, floor = 0) => ({ floor, x, y: 2 })
  test('a wall that two rooms share is one; a wide one too; the same room has none', () => {
    expect(between(rooms, at(1), at(3))).toMatchObject({ metres: 2, walls: 0, floors: 0 })
    expect(between(rooms, at(1), at(6)).walls).toBe(1)
    expect(between(rooms, at(1), at(10)).walls).toBe(2)
    expect(between(rooms, at(1), at(1, 2))).toMatchObject({ floors: 2, metres: 5.4 })
  })
})

describe('fitted to a home', () => {
  /** Homes of another model, read at some of their spots, judged at the others. */
  function trial(readings: number) {
    let inside = 0
    let all = 0
    const errors: number[] = []
    for (let seed = 1; seed <= 400; seed++) {
      const home = radioHome(seed)
      const readAt = home.spots.filter((_, index) => index % 2 === 0).slice(0, readings)
      const fit = fitRadio(
        '2.4',
        readAt.map((spot) => readingAt(home, spot)),
      )
      for (const spot of home.spots.filter((one) => !readAt.includes(one))) {
        const { dbm, spreadDb } = predict(fit, between(home.rooms, home.router, spot))
        const error = home.read(spot) - dbm
        errors.push(Math.abs(error))
        all++
        // 80 %: 1.2816 standard deviations on either side.
        if (Math.abs(error) <= 1.2816 * spreadDb) inside++
      }
    }
    errors.sort((a, b) => a - b)
    return { inside: inside / all, median: errors[Math.floor(errors.length / 2)]! }
  }
  const course = [0, 2, 4, 8].map((readings) => ({ readings, ...trial(readings) }))
  test('the 80 % interval holds 75 to 90 % of what was not read, with 0, 2, 4 and 8 readings; from eight the median is off by 6 dB at most', () => {
    console.log(
      course
        .map(
          ({ readings, inside, median }) =>
            `${readings} readings: ${(100 * inside).toFixed(0)} % inside, median off by ${median.toFixed(1)} dB`,
        )
        .join('\n'),
    )
    for (const { inside } of course) {
      expect(inside).toBeGreaterThan(0.75)
      expect(inside).toBeLessThan(0.9)
    }
    expect(course[3]!.median).toBeLessThanOrEqual(6)
    expect(course[3]!.median).toBeLessThan(course[0]!.median)
  })
  const near = { metres: 3, walls: 0, floors: 0 }
  const far = { metres: 12, walls: 3, floors: 1 }
  test('nearer is never worse, a wall never helps; a reading narrows what it tells of', () => {
    const fit = fitRadio('2.4', [])
    expect(predict(fit, near).dbm).toBeGreaterThan(predict(fit, far).dbm)
    expect(predict(fit, { ...near, walls: 1 }).dbm).toBeLessThan(predict(fit, near).dbm)
    const read = fitRadio('2.4', [{ between: far, metalDb: 0, dbm: -80, bars: null }])
    expect(predict(read, far).spreadDb).toBeLessThan(predict(fit, far).spreadDb)
    expect(tells(fit, far, far)).toBeGreaterThan(tells(fit, near, far))
  })
  test('bars say less than dBm, and more than nothing', () => {
    const spread = (reading: { dbm: number | null; bars: number | null }[]) =>
      predict(
        fitRadio(
          '2.4',
          reading.map((one) => ({ between: far, metalDb: 0, ...one })),
        ),
        far,
      ).spreadDb
    const [none, bars, dbm] = [spread([]), spread([{ dbm: null, bars: 1 }]), spread([{ dbm: -80, bars: null }])]
    expect(dbm).toBeLessThan(bars!)
    expect(bars).toBeLessThan(none!)
  })
  test('the verdict, and the spot that is worth a reading: where it is open, and most others hang on it', () => {
    const fit = fitRadio('2.4', [])
    expect(radioVerdict(predict(fit, near))).toBe('good')
    expect(radioVerdict(predict(fit, { metres: 30, walls: 6, floors: 2 }))).toBe('fails')
    const spots = [
      { id: 'near', between: near, metalDb: 0 },
      { id: 'far', between: { metres: 10, walls: 2, floors: 1 }, metalDb: 0 },
      { id: 'farther', between: { metres: 11, walls: 3, floors: 1 }, metalDb: 0 },
    ]
    expect(['far', 'farther']).toContain(nextSpot(fit, spots))
    expect(nextSpot(fit, spots.slice(0, 1))).toBeNull()
  })
})

describe('a plan', () => {
  const rooms = Array.from({ length: 6 }, (_, index) => ({ id: String(index), floor: 0, x: index * 4, y: 0, width: 4, depth: 4 }))
  const router = { floor: 0, x: 1, y: 2 }
  test('the grid falls with distance and has nothing outside of the rooms', () => {
    const grid = radioGrid(fitRadio('2.4', []), [...rooms, { id: 'far', floor: 0, x: 0, y: 8, width: 4, depth: 4 }], [router], 0, 0.5)!
    const at = (x: number, y: number) => grid.dbm[Math.floor(y / 0.5) * grid.columns + Math.floor(x / 0.5)]!
    expect(at(2, 2)).toBeGreaterThan(at(22, 2))
    expect(at(20, 10)).toBeNaN()
  })
  test('one more access point stands where most points get enough, and not beside the router', () => {
    const points = [18, 20, 22].map((x) => ({ floor: 0, x, y: 2 }))
    const place = bestPlace(fitRadio('2.4', []), rooms, [router], points)!
    expect(place.spot.x).toBeGreaterThan(12)
    expect(place.after).toBe(3)
    expect(place.after).toBeGreaterThan(place.before)
  })
})

describe('channels', () => {
  test('centre frequencies (IEEE 802.11-2020: 2412 … 2472, 2484; IEEE 802.15.4-2020: 2405 … 2480)', () => {
    expect([1, 6, 11, 13, 14].map(wifiCentreMHz)).toEqual([2412, 2437, 2462, 2472, 2484])
    expect([11, 15, 20, 25, 26].map(meshCentreMHz)).toEqual([2405, 2425, 2450, 2475, 2480])
  })
  test('between Wi-Fi 1, 6 and 11 the mesh channels 15, 20, 25 and 26 are free (common practice)', () => {
    const free = meshChannelPlan([1, 6, 11]).filter(({ covered }) => covered === 0)
    expect(free.map(({ channel }) => channel).sort()).toEqual([15, 20, 25, 26])
    expect(meshChannelPlan([1, 6, 11])[0]!.channel).toBe(25)
    expect(overlap(18, 6)).toBe(1)
    expect(overlap(25, 6)).toBe(0)
  })
})
