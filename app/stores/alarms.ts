import { defineStore } from 'pinia'
import type { StreamEvent } from '../../core/stream'

export interface Alarm {
  id: string
  siteId: string
  seq: number
  who: string
  what: string
  at: string
}

/** Browsers refuse to vibrate before the first tap on the page. */
function vibrate(pattern: number[]) {
  if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.(pattern)
}

function soundAlarm() {
  vibrate([400, 120, 400, 120, 400])
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
      const payload = event.payload as { alarms?: string[]; state?: string; again?: boolean }
      if (!payload.alarms?.includes(personId) || this.open.some((alarm) => alarm.id === event.id)) return
      const words: Record<string, string> = {
        breakerObserved: payload.again
          ? 'opened your breaker: it had been CLOSED meanwhile.'
          : `found your breaker ${payload.state === 'tripped' ? 'tripped' : 'CLOSED'}.`,
        liveObserved: 'reports voltage where you rely on a proof.',
        readingTaken: 'measured voltage where you rely on a proof.',
        tagOverridden: 'took your tag off as lead.',
        grantOverridden: 'ended a leave to close near you: nobody knows how the breaker is.',
        partedTested: 'found a parted neutral with voltage.',
        boxOpened: 'took a plate off behind a breaker you may be closing. Do not close it.',
        feedsSet: 'found another feed to your box.',
        roundSeen: 'saw a light on where you rely on a proof.',
        neutralsTied: 'found a shared neutral on your circuit.',
        conductorsRecorded: 'found other conductors in your box.',
        closeGranted: 'was given leave to close your breaker.',
      }
      this.open.push({
        id: event.id,
        siteId: event.streamId,
        seq: event.seq,
        who: event.actor.name,
        what: words[event.type] ?? 'changed something you rely on.',
        at: event.receivedAt,
      })
      soundAlarm()
    },
    /** Read and stopped: the record hears it, so that the crew knows that these hands are out. */
    dismiss(id: string) {
      const alarm = this.open.find((one) => one.id === id)
      if (alarm) {
        const seq = Math.max(alarm.seq, ...this.open.filter((one) => one.siteId === alarm.siteId).map((one) => one.seq))
        void sendCommand('site', alarm.siteId, { siteSeq: seq, jobSeq: null, where: '' }, { type: 'confirmStopped' })
      }
      this.open = this.open.filter((alarm) => alarm.id !== id)
    },
  },
})

/** A request has arrived: two soft tones and a short buzz, not an alarm. */
export function soundRequest() {
  vibrate([120, 80, 120])
  try {
    const audio = new AudioContext()
    for (const [index, frequency] of [520, 660].entries()) {
      const tone = audio.createOscillator()
      tone.type = 'sine'
      tone.frequency.value = frequency
      tone.connect(audio.destination)
      tone.start(audio.currentTime + index * 0.2)
      tone.stop(audio.currentTime + index * 0.2 + 0.16)
    }
  } catch {
    // No sound on this device: the request is on the screen.
  }
}
