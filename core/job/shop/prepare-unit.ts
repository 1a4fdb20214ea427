import { refuse } from '../../stream/envelope'
import { alarm, quoted } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { withBatteryOfModel, withHandsOfModel, withPairingOfModel } from '../lifts'
import { unitAt } from '../progress'
import { boxOf, noBox } from '../refusals'
import { madeAt } from '../touch'
import { readCode } from '../unit/read-code'
import { mayBench } from './may-bench'
import type { PrepareUnit, UnitPrepared } from './prepare-unit.schema'
import { failedInShop, preparedOf, serialKey, unitInBag } from './prepared'

export const prepareUnit = jobCommand('prepareUnit', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: PrepareUnit, context) {
    const box = boxOf(job, context, command.boxId)
    if (!box) return noBox()
    const { setupCode, setupCodeAgain, ...said } = command
    const device = job.boxes[box.id]?.devices[command.gang]
    if (!device) return refuse('noDevice', `No device is chosen for gang ${command.gang} of ${box.name}.`, 'Choose it first.')
    // One that is to replace it may be prepared: somebody called about what is in there.
    const installed = unitAt(job, box.id, command.gang)
    if (installed && !Object.values(job.callbacks).some(({ unitId, status }) => unitId === installed.id && status !== 'closed'))
      return refuse('unitInstalled', `A device is in gang ${command.gang} of ${box.name} already.`, 'Its tests are made on site.')
    if (context.serialInUse(command.serial))
      return refuse('serialInUse', `Serial ${command.serial} is already recorded somewhere.`, 'Read it again from the device.')
    const known = preparedOf(job, command.serial)
    const { model } = device
    if (known && known.model.id !== model.id)
      return refuse(
        'otherModel',
        `Serial ${command.serial} was recorded as ${known.model.maker} ${known.model.name}; here goes ${model.maker} ${model.name}.`,
        'Read the serial again, or take the model that belongs here.',
      )
    const lies = known && !failedInShop(known) && (known.boxId !== box.id || known.gang !== command.gang) ? known : null
    if (lies && unitInBag(job, lies.boxId, lies.gang) === lies && !unitAt(job, lies.boxId, lies.gang))
      return refuse(
        'inOtherBag',
        `Serial ${command.serial} lies in the bag of ${context.site.boxes[lies.boxId]?.name ?? 'another box'}.`,
        'Read it again from the device. If it is to go here now, prepare another one for that box first.',
      )
    const may = mayBench(model)
    const tests = {
      lamp: may.lamp ? said.lamp : 'none',
      meter: may.meter ? said.meter : 'none',
      power: may.lamp ? said.power : 'none',
    } as const
    if (failedInShop(tests) && said.note.length < 3) return refuse('noteMissing', 'A failed test needs a note: what did you see?')
    if (tests.power === 'passed' && !said.settings)
      return refuse(
        'nothingSet',
        'It comes back as it was set only once something was set.',
        'Note what was set, then try it without power.',
      )
    if (!may.code || !setupCode.trim())
      return done(unitPrepared({ ...said, ...tests, code: known?.code ?? null, model, madeAt: madeAt(context) }))
    const code = readCode(job, { serial: command.serial }, model, setupCode, setupCodeAgain, context)
    return 'ok' in code ? code : done(unitPrepared({ ...said, ...tests, code, model, madeAt: madeAt(context) }))
  },
  label: ({ serial }) => `in the shop: serial ${serial}`,
})

const evidence = ['version', 'settings', 'lamp', 'power', 'meter'] as const
export const unitPrepared = jobEvent('unitPrepared', {
  rows: true,
  lifts: [withPairingOfModel, withHandsOfModel, withBatteryOfModel],
  evolve(job, payload: UnitPrepared, event) {
    const key = serialKey(payload.serial)
    const before = job.prepared[key]
    // Whoever notes something more has not made the tests anew: they stay whose they were.
    const same = before && evidence.every((what) => before[what] === payload[what])
    const made = same ? before : { at: event.at, by: event.actor.initials, madeAt: payload.madeAt ?? event.receivedAt }
    // Newest last: the bag of a place holds the last one that was prepared for it.
    delete job.prepared[key]
    job.prepared[key] = { ...payload, at: made.at, by: made.by, madeAt: made.madeAt }
  },
  say(payload, { box }) {
    const parts = [
      payload.version && `runs ${payload.version}`,
      payload.settings && `set: ${payload.settings}`,
      ...(['lamp', 'meter', 'power'] as const).map((test) => payload[test] !== 'none' && `${test} ${payload[test]}`),
    ].filter(Boolean)
    const text = `prepared serial ${payload.serial} for ${box(payload.boxId)} in the shop${parts.length ? ` – ${parts.join(', ')}` : ''}${quoted(payload.note)}`
    return failedInShop(payload) ? alarm(text) : text
  },
})
