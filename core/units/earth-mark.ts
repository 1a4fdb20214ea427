const earthMarks = new Set(['bare', 'green', 'green-yellow'])
/** Bare, green or green-yellow: marked as the protective conductor (NEC 250.119; IEC 60445). A mark, not a proof. */
export const isEarthMarked = (colour: string): boolean => earthMarks.has(colour)
