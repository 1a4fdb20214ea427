/** A text without what people write one way or another: for telling homes alike. */
export const plainAddress = (text: string) =>
  text
    .toLowerCase()
    .replace(/\bstreet\b/g, 'st')
    .replace(/\broad\b/g, 'rd')
    .replace(/[^\p{L}\p{N}]+/gu, '')
