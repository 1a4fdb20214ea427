/** A complex number, rectangular. */
export interface Complex {
  re: number
  im: number
}
export const complex = (re: number, im = 0): Complex => ({ re, im })
export const add = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im })
export const subtract = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im })
export const times = (a: Complex, b: Complex): Complex => ({ re: a.re * b.re - a.im * b.im, im: a.re * b.im + a.im * b.re })
export function over(a: Complex, b: Complex): Complex {
  const size = b.re * b.re + b.im * b.im
  return { re: (a.re * b.re + a.im * b.im) / size, im: (a.im * b.re - a.re * b.im) / size }
}
export const magnitude = (a: Complex): number => Math.sqrt(a.re * a.re + a.im * a.im)
export const fromPolar = (size: number, degrees: number): Complex => ({
  re: size * Math.cos((degrees * Math.PI) / 180),
  im: size * Math.sin((degrees * Math.PI) / 180),
})

/** A square complex matrix, row by row in two typed arrays; factored in place (LU, partial pivoting). */
export class ComplexMatrix {
  readonly re: Float64Array
  readonly im: Float64Array
  private readonly rowOf: Int32Array
  constructor(readonly size: number) {
    this.re = new Float64Array(size * size)
    this.im = new Float64Array(size * size)
    this.rowOf = Int32Array.from({ length: size }, (_, index) => index)
  }
  add(row: number, column: number, value: Complex): void {
    this.re[row * this.size + column]! += value.re
    this.im[row * this.size + column]! += value.im
  }
  /** Factors the matrix. False: it has no inverse. */
  factor(): boolean {
    const { size, re, im, rowOf } = this
    for (let k = 0; k < size; k++) {
      let pivot = k
      let best = -1
      for (let row = k; row < size; row++) {
        const at = rowOf[row]! * size + k
        const weight = re[at]! * re[at]! + im[at]! * im[at]!
        if (weight > best) {
          best = weight
          pivot = row
        }
      }
      if (!(best > 1e-40)) return false
      const swap = rowOf[k]!
      rowOf[k] = rowOf[pivot]!
      rowOf[pivot] = swap
      const base = rowOf[k]! * size
      const pr = re[base + k]!
      const pi = im[base + k]!
      const norm = pr * pr + pi * pi
      for (let row = k + 1; row < size; row++) {
        const at = rowOf[row]! * size
        const ar = re[at + k]!
        const ai = im[at + k]!
        if (ar === 0 && ai === 0) continue
        const fr = (ar * pr + ai * pi) / norm
        const fi = (ai * pr - ar * pi) / norm
        re[at + k] = fr
        im[at + k] = fi
        for (let column = k + 1; column < size; column++) {
          const br = re[base + column]!
          const bi = im[base + column]!
          if (br === 0 && bi === 0) continue
          re[at + column]! -= fr * br - fi * bi
          im[at + column]! -= fr * bi + fi * br
        }
      }
    }
    return true
  }
  /** Solves for one right-hand side, after `factor`. */
  solve(right: Complex[]): Complex[] {
    const { size, re, im, rowOf } = this
    const xr = new Float64Array(size)
    const xi = new Float64Array(size)
    for (let row = 0; row < size; row++) {
      const base = rowOf[row]! * size
      let sr = right[rowOf[row]!]!.re
      let si = right[rowOf[row]!]!.im
      for (let column = 0; column < row; column++) {
        const r = re[base + column]!
        const i = im[base + column]!
        sr -= r * xr[column]! - i * xi[column]!
        si -= r * xi[column]! + i * xr[column]!
      }
      xr[row] = sr
      xi[row] = si
    }
    for (let row = size - 1; row >= 0; row--) {
      const base = rowOf[row]! * size
      let sr = xr[row]!
      let si = xi[row]!
      for (let column = row + 1; column < size; column++) {
        const r = re[base + column]!
        const i = im[base + column]!
        sr -= r * xr[column]! - i * xi[column]!
        si -= r * xi[column]! + i * xr[column]!
      }
      const dr = re[base + row]!
      const di = im[base + row]!
      const norm = dr * dr + di * di
      xr[row] = (sr * dr + si * di) / norm
      xi[row] = (si * dr - sr * di) / norm
    }
    return Array.from(xr, (value, index) => ({ re: value, im: xi[index]! }))
  }
}
