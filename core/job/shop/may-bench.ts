import type { DeviceModel } from '../../fit/device-schema'

/** What of a model can be looked at in a shop. A fan or a motor is no load of a test bench, and a companion carries none. */
export function mayBench(model: Pick<DeviceModel, 'kind' | 'radio' | 'metering' | 'setupCode'>): {
  update: boolean
  lamp: boolean
  meter: boolean
  code: boolean
} {
  const carriesLamps = model.kind === 'switch' || model.kind === 'dimmer' || model.kind === 'relayModule'
  return {
    update: model.radio !== 'none',
    lamp: carriesLamps,
    meter: carriesLamps && model.metering,
    code: model.setupCode !== 'none',
  }
}
