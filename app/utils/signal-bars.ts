/** Bars as a phone or an app shows them, to be tapped. */
export const signalBars = [0, 1, 2, 3, 4].map((value) => ({ value, label: value === 0 ? 'none' : String(value) }))
