/** A list with this in it where it was not, and without it where it was. */
export const toggled = <T>(list: readonly T[], item: T): T[] => (list.includes(item) ? list.filter((one) => one !== item) : [...list, item])

/** What somebody wrote one a line, without the empty ones. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
