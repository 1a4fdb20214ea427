import type { ConductorColour } from '../site'

/** How an insulation colour is drawn, on screens and on paper: its fill, and a pattern so that it is told apart without colour. */
export const insulation: Record<ConductorColour, { fill: string; stripe?: string; dash?: string }> = {
  black: { fill: '#2a2a2a' },
  red: { fill: '#b3261e', stripe: '#7c1711', dash: '2 7' },
  blue: { fill: '#2b5aa8', stripe: '#a9c4f0', dash: '3 12' },
  white: { fill: '#f4f1ea' },
  grey: { fill: '#8f948f', stripe: '#5e635e', dash: '1 5' },
  green: { fill: '#2f7d46', stripe: '#12401f', dash: '8 4' },
  'green-yellow': { fill: '#2f7d46', stripe: '#f0d23c', dash: '9 9' },
  bare: { fill: '#c98d4b' },
  brown: { fill: '#6b4226', stripe: '#b98d69', dash: '2 10' },
  yellow: { fill: '#e3bf3c', stripe: '#8f7412', dash: '2 6' },
  orange: { fill: '#d9772b', stripe: '#8b430d', dash: '6 6' },
  violet: { fill: '#6d4a9c', stripe: '#cdb6ee', dash: '4 6' },
  pink: { fill: '#dd93ad', stripe: '#8d4660', dash: '5 9' },
  unknown: { fill: '#b9b2a2', stripe: '#4f4a40', dash: '1 4' },
}
