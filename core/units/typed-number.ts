/** The number that somebody typed, with a point or a comma, and with whatever stands for a minus; NaN for nothing and for nonsense. */
export const typedNumber = (text: string): number => {
  const plain = text.trim().replace(/^[−–]/, '-').replace(',', '.')
  return plain === '' ? NaN : Number(plain)
}

/** Hours that somebody typed: 4.5, 4,5 or 4:30; NaN for nothing and for nonsense. */
export const typedHours = (text: string): number => {
  const [, hours, minutes] = /^\s*(\d{1,2})\s*(?::|h)\s*([0-5]\d)\s*$/.exec(text) ?? []
  return hours !== undefined ? Number(hours) + Number(minutes) / 60 : typedNumber(text.replace(/\s*h$/, ''))
}
