/**
 * The check digit of a GS1 number: from the right, digits weigh 3 and 1 in turn; the sum with the check digit is a multiple of ten.
 * @param body digits without the check digit
 * Source: GS1 General Specifications, section 7.9.1 (standard check digit calculation).
 */
export function gtinDigit(body: string): number {
  const sum = [...body].reverse().reduce((total, digit, index) => total + Number(digit) * (index % 2 === 0 ? 3 : 1), 0)
  return (10 - (sum % 10)) % 10
}
/** GTIN-8, -12, -13 or -14 with its check digit. */
export const gtinIsValid = (text: string): boolean =>
  /^(\d{8}|\d{12,14})$/.test(text) && gtinDigit(text.slice(0, -1)) === Number(text.at(-1))
/** One number in one form, so that the same article is known by whichever code was read. */
export const gtin14 = (text: string): string => text.padStart(14, '0')
