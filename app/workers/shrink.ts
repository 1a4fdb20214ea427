import { longestSide } from '../../core/units/picture'
import { answers } from './answers'

/** A picture from the camera, upright, smaller, and without what the phone wrote into it. Fails where it is none. */
export interface ShrinkTalk {
  question: Blob
  answer: Blob
}
answers<ShrinkTalk>(async (file) => {
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' })
  const scale = Math.min(1, longestSide / Math.max(picture.width, picture.height))
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(picture.width * scale)), Math.max(1, Math.round(picture.height * scale)))
  const pen = canvas.getContext('2d')!
  // What was transparent is paper.
  pen.fillStyle = '#fff'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.88 })
})
