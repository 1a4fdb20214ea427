import sharp from 'sharp'
import { longestSide } from '../../core/units/picture'
import { ApiError } from './errors'

const pictureTypes = ['jpeg', 'png', 'webp']
/** The longest side of one for lists. */
const smallSide = 320
/** More is a bomb: our own app sends an eighth of it. */
const mostPixels = 50_000_000

const brokenPicture = () =>
  new ApiError(422, 'brokenPicture', 'This picture is broken, or too large to be drawn: 50 million dots at most. Take it once more.')
const drawn = (bytes: Buffer, side: number, quality: number) =>
  sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error' })
    .rotate()
    .resize({ width: side, height: side, fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality })
    .toBuffer()

/**
 * A picture as it is stored: decoded and drawn anew, upright, no larger than needed, without what a phone writes into it (place,
 * time, owner) and without anything that is no picture. Throws ApiError 415 and 422.
 */
export async function drawnAnew(given: Buffer): Promise<{ mime: string; bytes: Buffer; small: Buffer }> {
  const { format } = await sharp(given, { limitInputPixels: false })
    .metadata()
    .catch(() => ({ format: '' }))
  // What it says it is counts for nothing: the bytes decide.
  if (!pictureTypes.includes(format)) throw new ApiError(415, 'notAPicture', 'Only JPEG, PNG and WebP pictures are taken.')
  try {
    const bytes = await drawn(given, longestSide, 86)
    return { mime: 'image/jpeg', bytes, small: await smallOf(bytes) }
  } catch {
    throw brokenPicture()
  }
}
/** As it stands in a list. Rejects where it cannot be drawn. */
export const smallOf = (bytes: Buffer): Promise<Buffer> => drawn(bytes, smallSide, 76)
