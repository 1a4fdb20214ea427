/** What charts are drawn with: a canvas, or a worker, knows nothing of the page’s style. */
export const chartFont = 'Atkinson Hyperlegible Next Variable, sans-serif'
export const chartColours = (dark: boolean) => ({
  ink: dark ? '#f0ebdf' : '#1d2421',
  line: dark ? '#3a423c' : '#d9d2c2',
  paper: dark ? '#101412' : '#fffdf8',
  night: dark ? '#0a0d0b' : '#e9e2d2',
  petrol: dark ? '#5fb0ad' : '#14595d',
  copper: dark ? '#e6915a' : '#c9743f',
  live: dark ? '#ff8f80' : '#b3261e',
})
