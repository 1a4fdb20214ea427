/** Letters and digits without those that are taken for each other most: no I, L, O, U, 0 or 1. */
const signs = 'ABCDEFGHJKMNPQRSTVWXYZ23456789'
const groups = 4
const inGroup = 4
/**
 * Four groups of four, drawn by the machine and chosen by nobody: 30^16, about 78 bits.
 * @param random fills bytes, as `crypto.getRandomValues` does
 */
export function newPassphrase(random: (bytes: Uint8Array<ArrayBuffer>) => Uint8Array): string {
  const drawn: string[] = []
  const whole = 256 - (256 % signs.length)
  while (drawn.length < groups * inGroup)
    // What would favour the first letters is drawn again.
    for (const byte of random(new Uint8Array(32)))
      if (byte < whole && drawn.length < groups * inGroup) drawn.push(signs[byte % signs.length]!)
  return Array.from({ length: groups }, (_, group) => drawn.slice(group * inGroup, (group + 1) * inGroup).join('')).join('-')
}
/** As it is typed: small letters, blanks and missing dashes do not matter. */
export const plainPassphrase = (typed: string): string => typed.toUpperCase().replace(/[^A-Z0-9]/g, '')
