import { imageSize } from 'image-size'
import type { Content } from 'pdfmake/interfaces'
import type { JobState, Photo } from '../../core/job'
import type { SiteState } from '../../core/site'
import { database } from '../database'
import { heading } from './pdf'
import { whereIs } from './projections'

/** Pictures of boxes under a heading, two in a row, each with the letters that somebody put on it. None: no heading either. */
export async function photoPages(job: JobState, site: SiteState, title: string, photos: Photo[]): Promise<Content[]> {
  const rows = await database().models.photos.findAll({ where: { id: photos.map(({ id }) => id), jobId: job.jobId }, raw: true })
  const cells = photos.flatMap((photo): Content[] => {
    const row = rows.find(({ id }) => id === photo.id)
    // The paper takes these two; another is found in the app.
    if (!row || !['image/jpeg', 'image/png'].includes(row.mime)) return []
    const { width, height } = imageSize(row.bytes)
    const size = Math.min(width, height) / 18
    const letters = (job.letters[photo.id] ?? [])
      .map(
        ({ letter, x, y }) =>
          `<circle cx="${x * width}" cy="${y * height}" r="${size * 0.75}" fill="#fffdf8" stroke="#1d2421" stroke-width="${size / 8}"/><text x="${x * width}" y="${y * height + size * 0.36}" font-size="${size}" text-anchor="middle" fill="#1d2421">${letter}</text>`,
      )
      .join('')
    const picture = `<image href="data:${row.mime};base64,${row.bytes.toString('base64')}" x="0" y="0" width="${width}" height="${height}"/>`
    return [
      {
        stack: [
          { text: [whereIs(site, photo.boxId ?? ''), photo.caption].filter(Boolean).join(' – '), bold: true, margin: [0, 6, 0, 2] },
          { svg: `<svg viewBox="0 0 ${width} ${height}">${picture}${letters}</svg>`, fit: [240, 240] },
        ],
      },
    ]
  })
  const pairs = Array.from({ length: Math.ceil(cells.length / 2) }, (_, index): Content => ({
    columns: cells.slice(2 * index, 2 * index + 2),
    columnGap: 12,
    unbreakable: true,
  }))
  return cells.length ? [heading(title), ...pairs] : []
}
