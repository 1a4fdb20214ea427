import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { end } from '../changes'
import { consequenceOfPath, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { housingWords } from '../survey-words'
import { ended } from '../telling'
import type { DescribeHome, HomeDescribed } from './describe-home.schema'

export const describeHome = siteCommand('describeHome', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: DescribeHome, { actor }) {
    const { neutralEarthed } = command
    const wasOutside = site.home.neutralEarthed === false
    // Whoever says that the tool may prove here again has to be able to tell.
    if (wasOutside && neutralEarthed !== undefined && neutralEarthed !== false && !actor.licensed)
      return refuse(
        'licenceNeeded',
        'Only a licensed person records that a conductor is tied to {ground} after all.',
        'Ask a licensed crew mate.',
      )
    const leaves = neutralEarthed === false && !wasOutside
    const ends = leaves ? consequenceOfPath(site, Object.values(site.boxes), [], null) : nothingEnds
    return accept(homeDescribed({ ...command, ...ends }))
  },
  label: () => 'what kind of home it is',
})

export const homeDescribed = siteEvent('homeDescribed', {
  evolve(site, payload: HomeDescribed, event) {
    const { housing, builder, neutralEarthed } = payload
    if (housing !== undefined) site.home.housing = housing
    if (builder !== undefined) site.home.builder = builder
    if (neutralEarthed !== undefined) site.home.neutralEarthed = neutralEarthed
    if (neutralEarthed === false) end(site, payload, { code: 'notCovered' }, event, { boxIds: Object.keys(site.boxes) })
  },
  say({ housing, builder, neutralEarthed, voids }) {
    const parts = [
      ...(housing ? [housingWords[housing]] : []),
      ...(builder ? [`built by ${builder}`] : []),
      ...(neutralEarthed === false ? ['neither conductor is tied to {ground}, both are live'] : []),
      ...(neutralEarthed ? ['its neutral is tied to {ground}'] : []),
    ]
    const text = `described the home: ${parts.join(', ') || 'as it was'}.${ended(voids)}`
    return neutralEarthed === false ? alarm(text) : text
  },
})
