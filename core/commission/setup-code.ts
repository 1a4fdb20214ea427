import { verhoeffIsValid } from './verhoeff'

/**
 * Setup codes of the open home standard. Manual pairing code: 11 digits, or 21 with vendor and product, the last one
 * a Verhoeff digit. QR payload: "MT:" and base 38. Sizes and fields follow the standard's reference SDK (from memory);
 * its published sample pair is checked in the tests.
 */
export type SetupCode =
  | { kind: 'manual'; canonical: string; shortDiscriminator: number; passcode: number }
  | { kind: 'qr'; canonical: string; discriminator: number; passcode: number }
  | { kind: 'plain'; canonical: string }

export type SetupCodeReading =
  | { ok: true; code: SetupCode; checked: 'checkDigit' | 'payload' | 'typedTwice' }
  | { ok: false; problem: string; needsSecondEntry: boolean }

const bad = (problem: string, needsSecondEntry = false): SetupCodeReading => ({ ok: false, problem, needsSecondEntry })

/** Passcodes the standard forbids because they are too easy to guess. */
function passcodeAllowed(passcode: number): boolean {
  if (passcode < 1 || passcode > 99_999_998) return false
  return !/^(\d)\1{7}$/.test(String(passcode).padStart(8, '0')) && passcode !== 12_345_678 && passcode !== 87_654_321
}

function readManual(digits: string): SetupCodeReading {
  if (!verhoeffIsValid(digits)) return bad('The check digit does not fit: one digit is wrong, or two are swapped. Read the code again.')
  const first = Number(digits[0])
  if (first > 7) return bad('A manual code begins with 0 to 7.')
  const long = (first & 4) !== 0
  if (long !== (digits.length === 21))
    return bad(
      long ? 'This code begins like a 21-digit code. Type all of it.' : 'This code begins like an 11-digit code, but more was typed.',
    )
  const middle = Number(digits.slice(1, 6))
  const high = Number(digits.slice(6, 10))
  const passcode = (high << 14) | (middle & 0x3fff)
  if (middle > 0xffff || high > 0x1fff || !passcodeAllowed(passcode)) return bad('No device has this code. Read it again.')
  return {
    ok: true,
    checked: 'checkDigit',
    code: { kind: 'manual', canonical: digits, shortDiscriminator: ((first & 3) << 2) | (middle >> 14), passcode },
  }
}

const base38 = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ-.'

/** Base 38: five characters carry three bytes, four carry two, two carry one; least significant first. */
function decodeBase38(text: string): number[] | null {
  const bytes: number[] = []
  for (let i = 0; i < text.length; i += 5) {
    const chunk = text.slice(i, i + 5)
    const size = { 5: 3, 4: 2, 2: 1 }[chunk.length]
    if (!size) return null
    let value = 0
    for (const letter of [...chunk].reverse()) {
      const digit = base38.indexOf(letter)
      if (digit < 0) return null
      value = value * 38 + digit
    }
    if (value >= 256 ** size) return null
    for (let k = 0; k < size; k++) bytes.push(Math.floor(value / 256 ** k) & 255)
  }
  return bytes
}

function readQr(text: string): SetupCodeReading {
  const bytes = decodeBase38(text.slice(3))
  if (!bytes || bytes.length < 11) return bad('This QR text is not complete. Scan it again.')
  const bit = (index: number) => (bytes[index >> 3]! >> (index & 7)) & 1
  const field = (from: number, width: number) => {
    let value = 0
    for (let i = width - 1; i >= 0; i--) value = value * 2 + bit(from + i)
    return value
  }
  const discriminator = field(45, 12)
  const passcode = field(57, 27)
  if (field(0, 3) !== 0 || field(84, 4) !== 0 || !passcodeAllowed(passcode))
    return bad('This QR text is damaged. Scan it again, or type the digits.')
  return { ok: true, checked: 'payload', code: { kind: 'qr', canonical: text, discriminator, passcode } }
}

/**
 * Reads a setup code as typed or scanned. Codes of other platforms have no check digit and must be typed twice.
 * @param entry what was typed or scanned; spaces and dashes in digits are ignored
 * @param again the second entry, for codes without a check digit
 */
export function readSetupCode(kind: 'openHome' | 'plain', entry: string, again = ''): SetupCodeReading {
  const text = entry.trim().toUpperCase()
  if (kind === 'openHome') {
    if (text.startsWith('MT:')) return readQr(text)
    const digits = text.replace(/[\s-]/g, '')
    if (!/^\d+$/.test(digits)) return bad('Type the digits of the code, or scan the square code.')
    if (digits.length !== 11 && digits.length !== 21) return bad(`A code has 11 or 21 digits; this one has ${digits.length}.`)
    return readManual(digits)
  }
  const clean = (value: string) => value.trim().toUpperCase().replace(/[\s-]/g, '')
  if (!/^[0-9A-Z]{8,32}$/.test(clean(entry))) return bad('A code without a check digit has at least 8 letters or digits.')
  if (clean(again) === '') return bad('This kind of code has no check digit: type it a second time.', true)
  if (clean(again) !== clean(entry)) return bad('The two entries differ. Read the code again.', true)
  return { ok: true, checked: 'typedTwice', code: { kind: 'plain', canonical: clean(entry) } }
}

/** Do a manual code and a QR payload belong to the same device? */
export function codesMatch(manual: Extract<SetupCode, { kind: 'manual' }>, qr: Extract<SetupCode, { kind: 'qr' }>): boolean {
  return manual.passcode === qr.passcode && manual.shortDiscriminator === qr.discriminator >> 8
}
