import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import type { AlarmShown, ShowAlarm } from './show-alarm.schema'

export const showAlarm = siteCommand('showAlarm', {
  kind: 'fact',
  queues: true,
  decide(site, _command: ShowAlarm, { actor }) {
    const unseen = Object.values(site.alarms).some((alarm) => alarm.personId === actor.personId && alarm.shownAt === null)
    return unseen ? accept(alarmShown({})) : refuse('nothingToShow', 'No alarm waits to be shown.')
  },
})

export const alarmShown = siteEvent('alarmShown', {
  evolve(site, _payload: AlarmShown, event) {
    for (const alarm of Object.values(site.alarms)) if (alarm.personId === event.actor.personId) alarm.shownAt ??= event.receivedAt
  },
  say: () => 'was shown the alarm',
})
