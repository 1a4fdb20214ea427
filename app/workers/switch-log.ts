import {
  explainSwitchings,
  readSwitchings,
  switchGroups,
  switchSentence,
  type AutomatedHome,
  type Explained,
  type SwitchGroup,
} from '../../core/automation'
import { ofItsLog, type OfItsLog } from '../../core/triage'
import type { LocaleId } from '../../core/units/region'
import { answers } from './answers'

/** A log of switchings: which devices are in it, and what switched one of them. */
export interface SwitchLogTalk {
  question: { text: string; home: AutomatedHome; deviceId: string | null; device: string | null; locale: LocaleId }
  answer:
    | { problem: string }
    | {
        problem: null
        devices: string[]
        left: number
        /** Which of them was looked at; null: none fits, and nobody has chosen. */
        device: string | null
        found: { explained: Omit<Explained, 'switchings'>; groups: SwitchGroup[]; sentence: string; says: OfItsLog } | null
      }
}

const plain = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
answers<SwitchLogTalk>(({ text, home, deviceId, device: chosen, locale }) => {
  const read = readSwitchings(text, home.zone)
  if (typeof read === 'string') return { problem: read }
  const { devices, left } = read
  const called = (name: string) => devices.find((one) => plain(one) === plain(name))
  const names = new Map(home.devices.flatMap(({ id, name }) => (name && called(name) ? [[id, called(name)!] as const] : [])))
  const only = devices.length === 1 ? devices[0]! : null
  const device = chosen ?? (deviceId === null ? only : (names.get(deviceId) ?? only))
  if (device === null) return { problem: null, devices, left, device, found: null }
  const explained = explainSwitchings(home, read, device, deviceId, names)
  if (typeof explained === 'string') return { problem: explained }
  const groups = switchGroups(explained, home, locale)
  const says = ofItsLog(
    explained,
    home.routines.map(({ name }) => name),
  )
  const { switchings: _, ...rest } = explained
  const found = { explained: rest, groups, sentence: switchSentence(explained, groups, device), says }
  return { problem: null, devices, left, device, found }
})
