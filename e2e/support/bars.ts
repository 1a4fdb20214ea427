import { writeFileSync } from 'node:fs'

// EAN-13 as ISO/IEC 15420 draws it: sets A and B on the left by the first digit, C on the right; from memory.
const a = ['0001101', '0011001', '0010011', '0111101', '0100011', '0110001', '0101111', '0111011', '0110111', '0001011']
const c = a.map((code) => code.replace(/[01]/g, (bit) => (bit === '0' ? '1' : '0')))
const b = c.map((code) => [...code].reverse().join(''))
const sets = ['AAAAAA', 'AABABB', 'AABBAB', 'AABBBA', 'ABAABB', 'ABBAAB', 'ABBBAA', 'ABABAB', 'ABABBA', 'ABBABA']

/** The modules of a number of 13 digits, 1 for a bar. */
function barsOf(digits: string): string {
  const left = [...digits.slice(1, 7)].map((digit, at) => (sets[Number(digits[0])]![at] === 'A' ? a : b)[Number(digit)]!)
  const right = [...digits.slice(7)].map((digit) => c[Number(digit)]!)
  return `101${left.join('')}01010${right.join('')}101`
}

/** A film of one picture, in which a camera sees these bars: what Chromium takes instead of a camera. */
export function filmBars(digits: string, file: string): void {
  const [width, height, module] = [640, 480, 5]
  const bars = barsOf(digits)
  const light = Buffer.alloc(width * height, 235)
  const from = Math.floor((width - bars.length * module) / 2)
  for (let row = 120; row < 360; row++)
    [...bars].forEach((bar, at) => {
      const start = row * width + from + at * module
      if (bar === '1') light.fill(16, start, start + module)
    })
  const frame = Buffer.concat([Buffer.from('FRAME\n'), light, Buffer.alloc((width * height) / 2, 128)])
  writeFileSync(file, Buffer.concat([Buffer.from(`YUV4MPEG2 W${width} H${height} F25:1 Ip A1:1 C420\n`), ...Array<Buffer>(10).fill(frame)]))
}
