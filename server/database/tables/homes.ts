import { as, id, int, orNull, real, table, text, time, type RowOf } from './columns'

export const customers = table('customers', {
  id,
  companyId: id,
  name: text,
  phone: text,
  email: text,
  erasedAt: orNull(time),
})

export type CustomerRow = RowOf<typeof customers>

export const sites = table('sites', {
  id,
  companyId: id,
  branchId: id,
  customerId: id,
  name: text,
  address: text,
  yearBuilt: orNull(int),
  doorCodeSealed: orNull(text),
  /** Where somebody showed it to be. */
  longitude: orNull(real),
  latitude: orNull(real),
  /** Nothing tells any more where it is, or whose. */
  erasedAt: orNull(time),
})
export type SiteRow = RowOf<typeof sites>

/** What somebody said of two records with one address. */
export const homeLinks = table(
  'home_links',
  {
    firstSiteId: id,
    secondSiteId: id,
    companyId: id,
    said: as<'same' | 'other'>(text),
    personId: id,
    at: time,
  },
  ['firstSiteId', 'secondSiteId'],
)

/** What was found in a home, for judging homes like it: follows from its record. */
export const homeFinds = table(
  'home_finds',
  {
    siteId: id,
    companyId: id,
    branchId: id,
    builder: text,
    /** Opened boxes in the wall with a neutral, and opened boxes in all. */
    neutrals: int,
    opened: int,
  },
  ['siteId'],
)
