import { type BoxWork, emptyWiring, type JobState } from './state'

export function workOn(job: JobState, boxId: string): BoxWork {
  return (job.boxes[boxId] ??= { roles: {}, devices: {}, steps: {} })
}

export const wiringOn = (job: JobState, boxId: string) => (workOn(job, boxId).wiring ??= emptyWiring())

export const unnamed = () => ({ name: '', channelNames: {}, namedBy: null, nameSeq: 0, otherNames: [] })
