/** 230 V scheme: no volume table; the device's depth against the back box, with room for the conductors behind it. */
export interface DepthFit {
  boxDepthMm: number
  deviceDepthMm: number
  leftMm: number
  fits: boolean
  sentence: string
}

/** Space conductors need behind a device, mm. Common practice, no source. */
const conductorSpaceMm = 5

export function depthFit(boxDepthMm: number, deviceDepthsMm: number[]): DepthFit {
  const deviceDepthMm = Math.max(0, ...deviceDepthsMm)
  const leftMm = boxDepthMm - deviceDepthMm
  const fits = leftMm >= conductorSpaceMm
  const sentence = fits
    ? `${leftMm} mm stay behind the device for conductors.`
    : leftMm < 0
      ? `The device is ${-leftMm} mm deeper than the back box.`
      : `Only ${leftMm} mm stay behind the device; conductors want about ${conductorSpaceMm} mm.`
  return { boxDepthMm, deviceDepthMm, leftMm, fits, sentence }
}
