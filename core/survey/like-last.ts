import type { BoxState, Noted, SiteState } from '../site'

/** What one box may take over from another with one tap: everything that is seen there. It was seen there, not here: nobody has looked inside this one. */
export function likeBox(site: SiteState, from: BoxState, to: BoxState): Noted {
  const survey = site.surveys[from.id] ?? {}
  const { cables, neutral, ground, splices, plate, finish, supportFittings } = survey
  const gangs = Math.min(from.gangs, to.gangs)
  const old = survey.old?.filter(({ gang }) => gang <= gangs)
  const parts: Noted = {
    // Cables of another number of gangs say little.
    ...(from.gangs === to.gangs ? { cables, splices, volumeIn3: from.volumeIn3 ?? undefined } : {}),
    depthMm: from.depthMm ?? undefined,
    material: from.material,
    internalClamps: from.internalClamps,
    supportFittings,
    neutral,
    ground,
    plate,
    finish,
    old,
  }
  return Object.fromEntries(Object.entries(parts).filter(([, value]) => value !== undefined)) as Noted
}
