import { accept } from '../../stream/envelope'
import { end } from '../changes'
import { endOf } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { ended } from '../telling'
import { withoutLicensedEyes } from './leaving'
import type { NotePerson, PersonNoted } from './note-person.schema'

export const notePerson = siteCommand('notePerson', {
  kind: 'work',
  by: 'system',
  decide(site, command: NotePerson, { actor }) {
    const over = command.licensed && command.active ? [] : withoutLicensedEyes(site, command.personId)
    return accept(personNoted({ ...command, ...endOf(site, over, actor) }))
  },
})

export const personNoted = siteEvent('personNoted', {
  evolve(site, payload: PersonNoted, event) {
    const { personId } = payload
    const licensed = payload.licensed && payload.active
    for (const proof of Object.values(site.proofs)) {
      if (proof.status === 'void') continue
      if (proof.personId === personId) proof.proverLicensed &&= licensed
      for (const witness of proof.witnesses) if (witness.personId === personId) witness.licensed &&= licensed
    }
    end(site, payload, { code: 'nobodyLicensed' }, event)
  },
  say: (payload, { site }) => `changed the role or licence of ${site.people[payload.personId]?.name ?? 'somebody'}.${ended(payload.voids)}`,
})
