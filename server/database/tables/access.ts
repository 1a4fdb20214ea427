import { flag, id, int, json, orNull, table, text, time } from './columns'

export const secretReads = table('secret_reads', {
  id,
  companyId: id,
  personId: id,
  what: text,
  refId: id,
  at: time,
  /** Why, where the office had no visit there. */
  reason: text,
})

/** Who logged in, changed accounts and settings, and took files out. */
export const accessRecord = table('access_record', {
  ...{ id, companyId: id, personId: id, deed: text, what: text },
  refId: orNull(id),
  changes: json,
  at: time,
})

/** What a person’s other device makes codes from, sealed; in use once `onSince` is set. */
export const secondFactors = table(
  'second_factors',
  { personId: id, companyId: id, secretSealed: text, usedStep: int, onSince: orNull(time) },
  ['personId'],
)

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

/** Live connections, by the server that holds them: one that is silent for long is gone, and so are they. */
export const connections = table('connections', { serverId: id, personId: id, companyId: id, branchId: id, beatAt: time }, [
  'serverId',
  'personId',
])
