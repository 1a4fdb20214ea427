/** How many of something, as one says it: 1 reading, 3 readings. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`
