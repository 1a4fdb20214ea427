import { defineStore } from 'pinia'
import type { StreamEvent } from '../../core/stream'
import type { WaitingAlarm } from '../../core/protocol'

export type Alarm = WaitingAlarm

/** Browsers refuse to vibrate before the first tap on the page. */
function vibrate(pattern: number[]) {
  if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.(pattern)
}

function tones(type: OscillatorType, frequencies: number[], everySeconds: number) {
  try {
    const audio = new AudioContext()
    for (const [index, frequency] of frequencies.entries()) {
      const tone = audio.createOscillator()
      tone.type = type
      tone.frequency.value = frequency
      tone.connect(audio.destination)
      tone.start(audio.currentTime + index * everySeconds)
      tone.stop(audio.currentTime + index * everySeconds + everySeconds * 0.8)
    }
  } catch {
    // No sound on this device: the screen and the vibration still tell.
  }
}

function soundAlarm() {
  vibrate([400, 120, 400, 120, 400])
  tones('square', [880, 620, 880], 0.28)
}

/** What answers or clears alarms; after it the list is asked for again. */
const answers = new Set(['stopConfirmed', 'proofStarted', 'proofWitnessed', 'siteLeft', 'readingTaken', 'readingsSwept', 'absentEnded'])

/** What happened, in words, after the name of whoever reported it. */
export const alarmWords: Record<string, string> = {
  workStopped: 'stopped the work.',
  stopTold: 'says what happened: every proof here has ended.',
  breakerObserved: 'found {a breaker} that was not as you left it.',
  liveObserved: 'reports voltage where you rely on a proof.',
  readingTaken: 'measured voltage where you rely on a proof.',
  readingsSwept: 'measured voltage where you rely on a proof.',
  proofFinished: 'found a tester at fault. What it proved has ended.',
  sourcePointRecorded: 'recorded where a source is switched off.',
  partedTested: 'found an open neutral with voltage.',
  causeRecorded: 'recorded what a voltage was: your proof has ended.',
  tagOverridden: 'took your tag off as lead.',
  absentEnded: 'recorded that a person has left: what rested on them has ended.',
  grantOverridden: 'ended a permission to close near you: its position is unknown, someone must look.',
  boxOpened: 'took a plate off behind {a breaker} you may be closing. Do not close it.',
  boxLookedInto: 'took a plate off behind {a breaker} you may be closing. Do not close it.',
  boxClosed: 'closed the box up. Your hands are out of it?',
  boxGuarded: 'capped the box. Your hands are out of it?',
  feedsSet: 'found another feed to your box.',
  siteLaidOut: 'recorded another feed, source or switch here.',
  boxRecorded: 'found a switch that acts on your box.',
  boxCorrected: 'corrected your box on record: its name, its room or its other switches.',
  panelUnfed: 'recorded that {a breaker} does not feed the {panel} your box hangs on. The proof you relied on has ended.',
  homeDescribed: 'recorded that neither conductor is tied to {ground} here: your proof has ended, both are live.',
  boxesMerged: 'recorded that two boxes are one. Your hands are in one of them?',
  boxSplit: 'recorded that your box is two boxes.',
  panelRecorded: 'found another {panel} or another feed to one.',
  sourceRecorded: 'found another source in this home.',
  roundSeen: 'saw a light on where you rely on a proof.',
  neutralsTied: 'found a shared neutral on your circuit.',
  conductorsRecorded: 'found other conductors in your box.',
  closeGranted: 'may close {a breaker} near you.',
  tagRemoved: 'took a tag off. The proof you relied on has ended.',
  tagRehung: 'hung a tag again. The proof you relied on has ended.',
  proofStarted: 'proves the box again. The proof you relied on has ended.',
  proofAbandoned: 'ended the proof you relied on.',
  testerRechecked: 'found the tester at fault. What it proved has ended.',
  instrumentFailed: 'took a tester out of service. What it proved has ended.',
  personNoted: 'changed a licence. No licensed person stands behind your proof now.',
  siteLeft: 'has left. The proof you relied on has ended.',
}

/**
 * Alarms that wait for this person, as the server has them: on this page or the next, on this device or another. Without
 * network what this device still heard stands. Each stays until it is answered.
 */
export const useAlarms = defineStore('alarms', {
  state: () => ({ open: [] as Alarm[], refusal: null as string | null }),
  actions: {
    async load() {
      const answer = await api('GET /api/me/alarms')
      if (!answer.ok) return
      const known = new Set(this.open.map((alarm) => `${alarm.siteId} ${alarm.seq}`))
      const fresh = answer.value.alarms.some((alarm) => !known.has(`${alarm.siteId} ${alarm.seq}`))
      this.open = answer.value.alarms
      if (fresh) soundAlarm()
      // This device has shown it: mates who would shout need not.
      for (const siteId of new Set(this.open.filter((alarm) => !alarm.shown).map((alarm) => alarm.siteId)))
        void sendCommand('site', siteId, { basedOnSeq: this.newest(siteId), jobSeq: null, where: '' }, { type: 'showAlarm' })
    },
    newest(siteId: string): number {
      return Math.max(0, ...this.open.filter((alarm) => alarm.siteId === siteId).map((alarm) => alarm.seq))
    },
    consider(event: StreamEvent, personId: string) {
      const payload = event.payload as { alarms?: string[]; personId?: string }
      if (payload.alarms?.includes(personId)) {
        if (!this.open.some((alarm) => alarm.siteId === event.streamId && alarm.seq === event.seq)) {
          this.open.unshift({
            siteId: event.streamId,
            seq: event.seq,
            what: event.type,
            by: event.actor.name,
            place: '',
            siteName: '',
            at: event.receivedAt,
            shown: false,
          })
          soundAlarm()
        }
        void this.load()
      } else if (payload.personId === personId) {
        // Something about oneself, by another hand: the record says whether it waits for an answer.
        void this.load()
      } else if (answers.has(event.type)) {
        if (this.open.some((alarm) => alarm.siteId === event.streamId)) void this.load()
      }
    },
    /** Read and stopped: the record hears it, so that the crew knows that these hands are out. */
    async stopped(siteId: string) {
      this.refusal = null
      const { submission } = await sendCommand(
        'site',
        siteId,
        { basedOnSeq: this.newest(siteId), jobSeq: null, where: '' },
        { type: 'confirmStopped' },
      )
      // Answered meanwhile on another device: nothing waits any more.
      if (!submission.ok && submission.refusal?.code !== 'nothingToAnswer') {
        this.refusal = submission.refusal?.reasons.join(' ') ?? null
        return void this.load()
      }
      this.open = this.open.filter((alarm) => alarm.siteId !== siteId)
      if (!submission.kept) void this.load()
    },
  },
})

/** A request has arrived: two soft tones and a short buzz, not an alarm. */
export function soundRequest() {
  vibrate([120, 80, 120])
  tones('sine', [520, 660], 0.2)
}
