/** So much ink a signature has at least, in widths of the field: a dot or a tap is none. Common practice, no source. */
const leastInk = 0.15

/**
 * Is this a signature rather than a slip of the finger?
 * @param strokes points in the unit square
 */
export function isSignature(strokes: [number, number][][]): boolean {
  const ink = strokes.reduce(
    (sum, stroke) =>
      sum + stroke.slice(1).reduce((length, [x, y], index) => length + Math.hypot(x - stroke[index]![0], y - stroke[index]![1]), 0),
    0,
  )
  return ink >= leastInk
}
