import { refuse } from '../../stream/envelope'
import { quoted } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { boxOf, noBox } from '../refusals'
import { photoWords } from '../words'
import type { AddPhoto, PhotoAdded } from './add-photo.schema'

export const addPhoto = jobCommand('addPhoto', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: AddPhoto, context) {
    if (command.boxId !== null && !boxOf(job, context, command.boxId)) return noBox()
    if (!context.hasPhoto(command.photoId)) return refuse('noSuchPhoto', 'The picture did not arrive.', 'Send it again.')
    if (job.photos.some((photo) => photo.id === command.photoId)) return refuse('photoExists', 'This picture is already in the record.')
    return done(photoAdded(command))
  },
  label: () => 'picture in the record',
})

export const photoAdded = jobEvent('photoAdded', {
  evolve(job, payload: PhotoAdded, event) {
    const { photoId, ...rest } = payload
    job.photos.push({ id: photoId, ...rest, at: event.at, by: event.actor.initials })
  },
  say: (payload, { box }) => `added a picture “${photoWords[payload.kind]}” of ${box(payload.boxId)}${quoted(payload.caption)}`,
})
