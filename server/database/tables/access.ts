import { flag, id, table, text, time } from './columns'

export const secretReads = table('secret_reads', {
  id,
  companyId: id,
  personId: id,
  what: text,
  refId: id,
  at: time,
})

/** What a database knows of itself, by name: `keyCanary`, sealed; `restored`, JSON. */
export const installation = table('installation', { name: text, value: text }, ['name'])

export const presence = table(
  'presence',
  {
    personId: id,
    companyId: id,
    siteId: id,
    /** 'walk', 'panel' or 'box:<id>'. */
    place: text,
    connected: flag,
    seenAt: time,
  },
  ['personId'],
)
