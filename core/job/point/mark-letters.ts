import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { LettersMarked, MarkLetters } from './mark-letters.schema'

export const markLetters = jobCommand('markLetters', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: MarkLetters) {
    const photo = job.photos.find(({ id }) => id === command.photoId)
    if (!photo) return refuse('noSuchPhoto', 'This photo is not part of the job.')
    if (!photo.boxId) return refuse('noBoxOnPhoto', 'This photo shows no box.', 'Take one at the box.')
    const letters = command.marks.map(({ letter }) => letter)
    if (new Set(letters).size !== letters.length) return refuse('sameLetter', 'One letter stands twice on the photo.')
    return done(lettersMarked(command))
  },
  label: () => 'letters on the photo',
})

export const lettersMarked = jobEvent('lettersMarked', {
  evolve(job, { photoId, marks }: LettersMarked) {
    job.letters[photoId] = marks
  },
  say: ({ photoId, marks }, { job, box }) =>
    `marked ${marks.map(({ letter }) => letter).join(', ') || 'no letters'} on a photo of ${box(job.photos.find(({ id }) => id === photoId)?.boxId ?? null)}`,
})
