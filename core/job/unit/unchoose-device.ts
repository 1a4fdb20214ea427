import { refuse } from '../../stream/envelope'
import { workOn } from '../changes'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import type { DeviceUnchosen, UnchooseDevice } from './unchoose-device.schema'

export const unchooseDevice = jobCommand('unchooseDevice', {
  by: 'crew',
  queues: true,
  decide(job, command: UnchooseDevice, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    if (!job.boxes[box.id]?.devices[command.gang]) return refuse('noDevice', `No device is chosen for gang ${command.gang} of ${box.name}.`)
    if (unitAt(job, box.id, command.gang))
      return refuse('unitInstalled', 'A device is already recorded here.', 'Replace it through a callback.')
    return done(deviceUnchosen(command))
  },
  label: () => 'device not chosen after all',
})

export const deviceUnchosen = jobEvent('deviceUnchosen', {
  rows: true,
  evolve(job, payload: DeviceUnchosen) {
    delete workOn(job, payload.boxId).devices[payload.gang]
  },
  say: (payload, { box }) => `took the choice of a device back at ${box(payload.boxId)}, gang ${payload.gang}`,
})
