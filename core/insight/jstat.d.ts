/** What is used of it; it comes without types of its own. */
declare module 'jstat' {
  interface Distribution {
    cdf(x: number, ...parameters: number[]): number
    inv(p: number, ...parameters: number[]): number
  }
  const jstat: { gamma: Distribution; beta: Distribution; poisson: Pick<Distribution, 'cdf'> }
  export default jstat
}
