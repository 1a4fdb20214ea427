import { verhoeffDigit } from '../commission'

/** A valid 11-digit setup code for tests, made from a number. */
export function inventedCode(number: number): string {
  const passcode = 30_000_000 + number * 7919
  const body = `0${String(passcode & 0x3fff).padStart(5, '0')}${String(passcode >> 14).padStart(4, '0')}`
  return body + verhoeffDigit(body)
}
