import { counted } from '../units/counted'
export type SignalEntry = { kind: 'dbm'; dbm: number } | { kind: 'bars'; bars: number }

export interface SignalJudgement {
  level: 'good' | 'fair' | 'poor'
  sentence: string
}

/** Wi-Fi level at the device. Limits in dBm and in bars are common practice, no source; bars are not a standard. */
export function judgeSignal(entry: SignalEntry): SignalJudgement {
  if (entry.kind === 'bars') {
    if (entry.bars >= 3) return { level: 'good', sentence: `${entry.bars} bars.` }
    return entry.bars >= 2
      ? { level: 'fair', sentence: '2 bars: just enough. A reading in dBm would say more.' }
      : {
          level: 'poor',
          sentence: `${counted(entry.bars, 'bar')}: below the two that a device needs. Move or add an access point.`,
        }
  }
  if (entry.dbm >= -65) return { level: 'good', sentence: `${entry.dbm} dBm.` }
  return entry.dbm >= -72
    ? { level: 'fair', sentence: `${entry.dbm} dBm: works, with little to spare.` }
    : { level: 'poor', sentence: `${entry.dbm} dBm is too weak to rely on. Move or add an access point.` }
}
