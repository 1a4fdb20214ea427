import { jest } from '@jest/globals'
import sharp from 'sharp'
import { database } from '../database'
import { makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { book } from '../testing/visits'
import { longestSide } from '../../core/units/picture'
import { drawnAnew } from './picture'
import { readPhoto, storePhoto } from './photos'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

/** A picture as a phone takes it: lying, with its place in it. Red is on its left as it is stored. */
const fromPhone = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#2040ff' } })
    .composite([{ input: { create: { width: 20, height, channels: 3, background: '#ff0000' } }, left: 0, top: 0 }])
    .withExif({ IFD0: { Copyright: 'whoever owns the phone' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' } })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer()

describe('a picture is drawn anew', () => {
  test('upright, smaller, and without place and owner', async () => {
    const given = await sharp(await fromPhone(4000, 3000))
      .keepMetadata()
      .toBuffer()
    expect((await sharp(given).metadata()).exif).toBeDefined()
    const { bytes, small, mime } = await drawnAnew(given)
    const [whole, list] = await Promise.all([sharp(bytes).metadata(), sharp(small).metadata()])
    expect(mime).toBe('image/jpeg')
    // It lay on its side: 4000 by 3000 is 3000 by 4000 for whoever looks at it.
    expect([whole.width, whole.height]).toEqual([1920, longestSide])
    expect(Math.max(list.width, list.height)).toBe(320)
    for (const { exif, xmp, iptc, orientation } of [whole, list])
      expect([exif, xmp, iptc, orientation]).toEqual([undefined, undefined, undefined, undefined])
    // Orientation 6 of the Exif standard: the left column is the top row.
    const { data } = await sharp(bytes).extract({ left: 900, top: 2, width: 1, height: 1 }).raw().toBuffer({ resolveWithObject: true })
    expect(data[0]).toBeGreaterThan(200)
    expect(data[2]).toBeLessThan(80)
  })
  test('what stands behind it, and what is transparent, is gone', async () => {
    const png = await sharp({ create: { width: 40, height: 40, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } } })
      .png()
      .toBuffer()
    const { bytes } = await drawnAnew(Buffer.concat([png, Buffer.from('<script>alert(1)</script>PK\u0003\u0004')]))
    expect(bytes.includes('script')).toBe(false)
    expect([...(await sharp(bytes).extract({ left: 5, top: 5, width: 1, height: 1 }).raw().toBuffer())]).toEqual([255, 255, 255])
  })
  test('a small one is not made larger', async () => {
    const { bytes } = await drawnAnew(
      await sharp({ create: { width: 30, height: 20, channels: 3, background: '#fff' } })
        .webp()
        .toBuffer(),
    )
    expect(await sharp(bytes).metadata()).toMatchObject({ width: 30, height: 20 })
  })
  test('a bomb, half a picture and what is none are refused', async () => {
    const bomb = await sharp({ create: { width: 8_000, height: 8_000, channels: 3, background: '#000' }, limitInputPixels: false })
      .png()
      .toBuffer()
    expect(bomb.length).toBeLessThan(1_500_000)
    expect(await refusedWith(drawnAnew(bomb))).toEqual([422, 'brokenPicture'])
    const whole = await fromPhone(800, 600)
    expect(await refusedWith(drawnAnew(whole.subarray(0, whole.length / 2)))).toEqual([422, 'brokenPicture'])
    for (const none of [
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><image href="file:///etc/passwd"/></svg>'),
      Buffer.from('GIF89a'),
      Buffer.from('%PDF-1.7'),
      Buffer.from([0xff, 0xd8, 0xff]),
      Buffer.alloc(2000, 'x'),
    ])
      expect(await refusedWith(drawnAnew(none))).toEqual([415, 'notAPicture'])
  })
})

describe('pictures of a job', () => {
  async function world() {
    const { lead, add } = await makeCompany()
    const [anna, stranger] = [await add('technician'), await add('technician')]
    const { jobId } = await open(lead)
    await book(lead, jobId, [anna.personId], [8, 10])
    const job = (await database().models.jobs.findByPk(jobId))!
    return { lead, anna, stranger, job, picture: await fromPhone(400, 300) }
  }
  test('the same one, twenty times at once, is stored once', async () => {
    const { anna, job, picture } = await world()
    const id = uuid()
    const all = await Promise.all(Array.from({ length: 20 }, () => storePhoto(anna, job, picture, id)))
    expect(new Set(all.map((one) => one.id))).toEqual(new Set([id]))
    expect(await database().models.photos.count({ where: { jobId: job.id } })).toBe(1)
  })
  test('only whoever is on the job stores one; an id of somebody else is taken', async () => {
    const { lead, anna, stranger, job, picture } = await world()
    const { id } = await storePhoto(anna, job, picture)
    expect(await refusedWith(storePhoto(stranger, job, picture))).toEqual([403, 'notOnCrew'])
    expect(await refusedWith(storePhoto(lead, job, picture, id))).toEqual([409, 'idTaken'])
  })
  test('one that waited on a phone is taken after its visit is over', async () => {
    const { anna, job, picture } = await world()
    await database().models.visits.update({ status: 'done' }, { where: { jobId: job.id } })
    expect(await storePhoto(anna, job, picture)).toEqual({ id: expect.any(String) })
  })
  test('as it stands in a list it is made once, also of pictures from before', async () => {
    const { anna, job, picture } = await world()
    const { photos } = database().models
    const { id } = await storePhoto(anna, job, await fromPhone(1600, 1200))
    const size = async (small: boolean) => (await sharp((await readPhoto(anna, id, small)).bytes).metadata()).height
    expect([await size(true), await size(false)]).toEqual([320, 1600])
    await photos.update({ bytes: await fromPhone(1600, 1200), small: null }, { where: { id } })
    expect(await size(true)).toBe(320)
    expect((await photos.findByPk(id, { raw: true }))!.small).not.toBeNull()
    // A broken one of before is given as it is.
    await photos.update({ bytes: picture.subarray(0, 200), small: null }, { where: { id } })
    expect((await readPhoto(anna, id, true)).bytes).toHaveLength(200)
  })
})
