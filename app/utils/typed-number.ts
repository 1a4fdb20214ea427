/** The number that somebody typed, with a point or a comma; NaN for nothing and for nonsense. */
export const typedNumber = (text: string): number => (text.trim() === '' ? NaN : Number(text.replace(',', '.')))
