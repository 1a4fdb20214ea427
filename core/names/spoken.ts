/** Numbers as they are said, by their digits. */
const numbers = [
  ...['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'],
  ...['eleven', 'twelve', 'thirteen', 'fourteen', 'fifteen', 'sixteen', 'seventeen', 'eighteen', 'nineteen'],
]
const tens = ['', '', 'twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety']
const ordinals = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth']
/** Said or left out, it is the same name. */
const silent = new Set(['the', 'a', 'an', 'my', 'our'])

/** What is said for a word of digits; a long number is said digit by digit. */
export function saidNumber(digits: string): string[] {
  const value = Number(digits)
  if (value < 20) return [numbers[value]!]
  if (value < 100) return [tens[Math.floor(value / 10)]!, ...(value % 10 ? [numbers[value % 10]!] : [])]
  return [...digits].flatMap((digit) => saidNumber(digit))
}

/** "kitchen lights" and "kitchen light" are heard as one. */
function singular(word: string): string {
  if (/(?:ch|sh|x|ss)es$/.test(word)) return word.slice(0, -2)
  return word.length > 3 && /[^siu]s$/.test(word) ? word.slice(0, -1) : word
}

function folded(word: string): string {
  const ordinal = /^0*(\d+)(?:st|nd|rd|th)$/.exec(word)
  if (ordinal) return ordinals[Number(ordinal[1])] ?? word
  if (/^\d+$/.test(word)) return String(Number(word))
  const at = numbers.indexOf(word)
  return at >= 0 ? String(at) : singular(word)
}

/** The words of a name as a listener has them: no sign, no article, numbers as digits, one for many. */
export function wordsOf(name: string): string[] {
  const words = name
    .normalize('NFKC')
    .toLowerCase()
    .replace(/['’]/g, '')
    .replace(/[^\p{L}\p{N}\s]/gu, ' ')
    .split(/\s+/)
    .filter(Boolean)
  const heard = words.filter((word) => !silent.has(word))
  return (heard.length ? heard : words).map(folded)
}

/** All of the words are in it, in whatever order; each as often as it is said. */
export function holdsAll(outer: readonly string[], inner: readonly string[]): boolean {
  const left = [...outer]
  return inner.every((word) => {
    const at = left.indexOf(word)
    if (at < 0) return false
    left.splice(at, 1)
    return true
  })
}
