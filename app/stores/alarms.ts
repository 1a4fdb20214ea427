import { defineStore } from 'pinia'
import type { StreamEvent } from '../../core/stream'

export interface Alarm {
  id: string
  siteId: string
  who: string
  what: string
  at: string
}

function soundAlarm() {
  navigator.vibrate?.([400, 120, 400, 120, 400])
  try {
    const audio = new AudioContext()
    for (let i = 0; i < 3; i++) {
      const tone = audio.createOscillator()
      tone.type = 'square'
      tone.frequency.value = i % 2 ? 620 : 880
      tone.connect(audio.destination)
      tone.start(audio.currentTime + i * 0.28)
      tone.stop(audio.currentTime + i * 0.28 + 0.22)
    }
  } catch {
    // No sound on this device: the screen and the vibration still tell.
  }
}

/** Signs of power that reach people who rely on a proof or a tag. They stay until a person has read them. */
export const useAlarms = defineStore('alarms', {
  state: () => ({ open: [] as Alarm[] }),
  actions: {
    consider(event: StreamEvent, personId: string) {
      const payload = event.payload as { alarms?: string[]; state?: string; what?: string; breakerId?: string }
      if (!payload.alarms?.includes(personId) || this.open.some((alarm) => alarm.id === event.id)) return
      const words: Record<string, string> = {
        breakerObserved: `found your breaker ${payload.state === 'tripped' ? 'tripped' : 'CLOSED'}.`,
        liveObserved: 'reports voltage where you rely on a proof.',
        readingTaken: 'measured voltage where you rely on a proof.',
        tagOverridden: 'took your tag off as lead.',
        feedsSet: 'found another feed to your box.',
        neutralsTied: 'found a shared neutral on your circuit.',
        conductorsRecorded: 'found other conductors in your box.',
        closeGranted: 'was given leave to close your breaker.',
      }
      this.open.push({
        id: event.id,
        siteId: event.streamId,
        who: event.actor.name,
        what: words[event.type] ?? 'changed something you rely on.',
        at: event.receivedAt,
      })
      soundAlarm()
    },
    dismiss(id: string) {
      this.open = this.open.filter((alarm) => alarm.id !== id)
    },
  },
})
