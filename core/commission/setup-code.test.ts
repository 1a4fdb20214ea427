import { ManualPairingCodeCodec, QrPairingCodeCodec } from '@matter/types/schema'
import fc from 'fast-check'
import { codesMatch, readSetupCode, type SetupCode } from './setup-code'
import { verhoeffDigit, verhoeffIsValid } from './verhoeff'

// Published sample pair of the open home standard's reference SDK.
const sampleManual = '34970112332'
const sampleQr = 'MT:Y.K9042C00KA0648G00'

function code(entry: string): SetupCode {
  const reading = readSetupCode('openHome', entry)
  if (!reading.ok) throw new Error(reading.problem)
  return reading.code
}

describe('Verhoeff', () => {
  test('the worked example of the literature: 236 takes 3', () => {
    expect(verhoeffDigit('236')).toBe(3)
    expect(verhoeffIsValid('2363')).toBe(true)
  })
})

describe('setup codes of the open home standard', () => {
  test('the published manual code: short discriminator 15, passcode 20202021', () =>
    expect(code(sampleManual)).toEqual({ kind: 'manual', canonical: sampleManual, shortDiscriminator: 15, passcode: 20202021 }))
  test('the published QR payload: discriminator 3840, passcode 20202021; the two belong together', () => {
    const qr = code(sampleQr)
    expect(qr).toEqual({ kind: 'qr', canonical: sampleQr, discriminator: 3840, passcode: 20202021 })
    expect(codesMatch(code(sampleManual) as never, qr as never)).toBe(true)
  })
  test('spaces and dashes as printed on cards', () => expect(code('3497-011-2332')).toMatchObject({ canonical: sampleManual }))

  test('every single-digit error of the sample is caught', () => {
    let tried = 0
    for (let at = 0; at < sampleManual.length; at++) {
      for (let digit = 0; digit < 10; digit++) {
        if (String(digit) === sampleManual[at]) continue
        tried++
        expect(readSetupCode('openHome', sampleManual.slice(0, at) + digit + sampleManual.slice(at + 1)).ok).toBe(false)
      }
    }
    expect(tried).toBe(99)
  })
  test('every adjacent swap of the sample is caught', () => {
    for (let at = 0; at + 1 < sampleManual.length; at++) {
      const swapped = sampleManual.slice(0, at) + sampleManual[at + 1] + sampleManual[at] + sampleManual.slice(at + 2)
      if (swapped !== sampleManual) expect(readSetupCode('openHome', swapped).ok).toBe(false)
    }
  })

  const passcode = fc
    .integer({ min: 1, max: 99_999_998 })
    .filter((value) => !/^(\d)\1{7}$/.test(String(value).padStart(8, '0')) && value !== 12_345_678 && value !== 87_654_321)
  test('agrees with a general-purpose implementation of the standard on random codes', () => {
    fc.assert(
      fc.property(
        passcode,
        fc.integer({ min: 0, max: 4095 }),
        fc.integer({ min: 0, max: 65_535 }),
        fc.boolean(),
        (secret, discriminator, vendorId, long) => {
          const manual = ManualPairingCodeCodec.encode({
            passcode: secret,
            discriminator,
            ...(long ? { vendorId, productId: 77 } : {}),
          } as never)
          expect(code(manual)).toMatchObject({ kind: 'manual', passcode: secret, shortDiscriminator: discriminator >> 8 })
          const qr = QrPairingCodeCodec.encode([
            { version: 0, vendorId, productId: 77, flowType: 0, discriminator, passcode: secret, discoveryCapabilities: 2 } as never,
          ])
          expect(code(qr)).toMatchObject({ kind: 'qr', passcode: secret, discriminator })
        },
      ),
      { seed: 20202021, numRuns: 300 },
    )
  })
  test('forbidden passcodes, wrong lengths and nonsense get a sentence', () => {
    for (const entry of ['', 'hello', '3497011233', '349701123321', 'MT:', 'MT:Y.K9042C00KA0648G0', 'MT:!!!!']) {
      const reading = readSetupCode('openHome', entry)
      expect(reading.ok).toBe(false)
      if (!reading.ok) expect(reading.problem.length).toBeGreaterThan(10)
    }
    const body = `3${(3 << 14) | (11111111 & 0x3fff)}${String(11111111 >> 14).padStart(4, '0')}`
    expect(readSetupCode('openHome', body + verhoeffDigit(body)).ok).toBe(false)
  })
})

describe('codes without a check digit', () => {
  test('are typed twice', () => {
    expect(readSetupCode('plain', '1234-5678')).toMatchObject({ ok: false, needsSecondEntry: true })
    expect(readSetupCode('plain', '1234-5678', '1234 5679')).toMatchObject({ ok: false, needsSecondEntry: true })
    expect(readSetupCode('plain', '1234-5678', '12345678')).toMatchObject({ ok: true, checked: 'typedTwice' })
    expect(readSetupCode('plain', '1234', '1234')).toMatchObject({ ok: false, needsSecondEntry: false })
  })
})
