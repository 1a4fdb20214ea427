/**
 * Verhoeff's check digit: dihedral group D5, catches every single-digit error and every adjacent swap.
 * J. Verhoeff, Error Detecting Decimal Codes, Mathematical Centre Tract 29, 1969.
 */
function multiply(a: number, b: number): number {
  if (a < 5) return b < 5 ? (a + b) % 5 : 5 + ((a + b) % 5)
  return b < 5 ? 5 + ((a - b + 5) % 5) : (a - b + 5) % 5
}

const step = [1, 5, 7, 6, 2, 8, 3, 0, 9, 4]

function permute(position: number, digit: number): number {
  let value = digit
  for (let i = 0; i < position % 8; i++) value = step[value]!
  return value
}

/** True when the last digit of `digits` is the right check digit. Expects decimal digits only. */
export function verhoeffIsValid(digits: string): boolean {
  let check = 0
  const reversed = [...digits].reverse()
  for (const [position, digit] of reversed.entries()) check = multiply(check, permute(position, Number(digit)))
  return check === 0
}

/** The digit to append to `digits`. */
export function verhoeffDigit(digits: string): number {
  for (let digit = 0; digit < 10; digit++) if (verhoeffIsValid(digits + digit)) return digit
  throw new RangeError('digits must be decimal')
}
