import type { PairingWindow } from '../../core/commission/pairing'
import type { JobState, Unit } from '../../core/job'

const pad = (value: number) => String(Math.floor(value)).padStart(2, '0')
/** Minutes and seconds that are left. */
export const leftWords = (ms: number): string => (ms <= 0 ? '0:00' : `${Math.floor(ms / 60_000)}:${pad((ms % 60_000) / 1000)}`)

/** What a window comes to now: in words, and how much of it is left, 0 to 1; null: nothing burns down. */
export function windowSaid(window: PairingWindow, now: number): { words: string; left: number | null; tone: 'calm' | 'soon' | 'over' } {
  switch (window.is) {
    case 'off':
      return { words: 'waits for its power', left: null, tone: 'calm' }
    case 'byGesture':
      return { words: 'opens by its gesture', left: null, tone: 'calm' }
    case 'unknown':
      return { words: 'nobody recorded when its power came: it may be over', left: null, tone: 'soon' }
    case 'over':
      return { words: 'its window is over', left: 0, tone: 'over' }
    case 'perhaps':
      return {
        words: `perhaps ${leftWords(window.atMost - now)} more`,
        left: (window.atMost - now) / (window.atMost - window.from),
        tone: 'soon',
      }
    case 'open': {
      const ms = window.until - now
      return { words: `${leftWords(ms)} left`, left: ms / (window.until - window.from), tone: ms < 180_000 ? 'soon' : 'calm' }
    }
  }
}
/** A share in tenths, as one says it on a ladder. */
export const inTen = (chance: number): string => {
  const tenths = Math.round(chance * 10)
  return tenths < 1 ? 'less than 1 in 10' : `about ${tenths} in 10`
}

/** What a device is called while it may have no name yet: what it switches, else its serial. */
export const nameOfUnit = (job: JobState, unit: Unit): string => {
  const points = job.boxes[unit.boxId]?.devices[unit.gang]?.pointIds ?? []
  return unit.name || points.flatMap((id) => job.points[id]?.name ?? []).join(', ') || unit.serial
}
