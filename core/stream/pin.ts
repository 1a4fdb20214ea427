/** A PIN stands for its owner on a crew mate's device: short enough for gloves, and it rests after five wrong tries. */
export const pinShape = /^\d{4,8}$/
export const pinWord = 'A PIN has 4 to 8 digits.'
