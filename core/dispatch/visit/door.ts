import { partNeeds, stillToPick } from '../../stock/needs'
import { pointsInOrder, type JobState, type Visit } from '../../job'
import type { doorCheckIds } from '../../job/words'
import type { SiteState } from '../../site'
import type { PrepareId } from '../promise/prepare'
import { boxesToDo } from './work'

/** What the record cannot know of a visit at the door. */
export interface DoorFacts {
  /** What the customer ticked as ready. */
  ready: readonly PrepareId[]
  /** Somebody with a licence is on the visit. */
  licensed: boolean
}
/** Answers of the crew at the door, by check. */
export type DoorAnswers = Partial<Record<DoorCheckId, 'yes' | 'no'>>
export type DoorCheckId = (typeof doorCheckIds)[number]

export interface DoorCheck {
  id: DoorCheckId
  /** yes: it is so · no: it is not · ask: somebody has to look or ask. */
  is: 'yes' | 'no' | 'ask'
  /** What is looked at, as a sentence that is true when it is so. In words of the trade. */
  what: string
  /** Where the answer comes from, or why it matters. */
  why: string
  /** Without it nothing is opened; else it limits what can be finished today. */
  stops: boolean
}

/**
 * What has to be so before anything is opened. What the record or the customer says is answered; the rest is asked at the door.
 * The crew decides.
 */
export function doorChecks(job: JobState, site: SiteState, visit: Visit, facts: DoorFacts, answers: DoorAnswers = {}): DoorCheck[] {
  const works = visit.kind !== 'survey'
  const ticked = (id: PrepareId) => facts.ready.includes(id)
  const asked = (id: DoorCheckId, known: 'yes' | 'no' | null): DoorCheck['is'] => answers[id] ?? known ?? 'ask'
  const lacks = partNeeds(job).filter((need) => stillToPick(need) > 0)
  const alarms = Object.keys(site.alarms).length
  // Whatever somebody has said of it stands first.
  const mustStay = [
    ...Object.values(site.breakers).flatMap(({ offLimits }) => offLimits || []),
    ...pointsInOrder(job).flatMap(({ name, mustRun }) => (mustRun ? [`${name} must not stay off`] : [])),
  ]
  const joins = boxesToDo(job, site).length > 0 && pointsInOrder(job).length > 0
  const networks = Object.values(site.networks)
  const said = (id: PrepareId, else_: string) => (ticked(id) ? 'The customer says so.' : else_)
  const checks: (DoorCheck | null)[] = [
    works
      ? {
          id: 'licence',
          is: facts.licensed ? 'yes' : 'no',
          what: 'Somebody licensed is here',
          why: facts.licensed ? 'By who is on this visit.' : 'Nobody on this visit is licensed: a proof needs one.',
          stops: true,
        }
      : null,
    alarms
      ? {
          id: 'alarms',
          is: 'no',
          what: 'No alarm is open at this home',
          why: `${alarms === 1 ? 'One alarm is' : `${alarms} alarms are`} open: answer it first.`,
          stops: true,
        }
      : null,
    {
      id: 'adult',
      is: asked('adult', ticked('adult') ? 'yes' : null),
      what: 'An adult is at home and stays',
      why: said('adult', 'Power goes off and on; somebody has to say what must stay on.'),
      stops: true,
    },
    {
      id: 'panel',
      is: asked('panel', ticked('panel') ? 'yes' : null),
      what: 'The {panel} can be reached',
      why: said('panel', 'Without it nothing can be made dead.'),
      stops: works,
    },
    works
      ? {
          id: 'mustStay',
          is: asked('mustStay', null),
          what: 'You asked what must not lose power',
          why: mustStay.length
            ? `On record: ${mustStay.join('; ')}.`
            : ticked('mustStay')
              ? 'The customer says that they told us: ask again before the first circuit is off.'
              : 'A medical device, an alarm, a freezer, a server.',
          stops: true,
        }
      : null,
    visit.kind === 'install' && lacks.length
      ? {
          id: 'parts',
          is: asked('parts', 'no'),
          what: 'Its parts are here',
          why: `Not picked: ${lacks.map((need) => `${stillToPick(need)} × ${need.name}`).join(', ')}.`,
          stops: false,
        }
      : null,
    visit.kind === 'install' && joins
      ? {
          id: 'account',
          is: asked('account', ticked('account') && ticked('codeReceiver') ? 'yes' : null),
          what: 'The app’s account is theirs, and the code reaches them',
          why: said('account', 'Else devices work by hand today, and are joined another day.'),
          stops: false,
        }
      : null,
    works && joins
      ? {
          id: 'network',
          is: asked('network', ticked('wifi') ? 'yes' : null),
          what: 'Their network is up, and its password is known',
          why: networks.length
            ? `On record: ${networks.map(({ name }) => name).join(', ')}.`
            : said('wifi', 'Nobody noted a network of this home yet.'),
          stops: false,
        }
      : null,
  ]
  return checks.filter((check) => check !== null)
}

/** What follows: begin, begin and leave something for another day, or do not begin; or ask first. */
export function doorVerdict(checks: readonly DoorCheck[]): { is: 'go' | 'part' | 'no' | 'ask'; because: DoorCheck[] } {
  const no = checks.filter(({ is }) => is === 'no')
  const stopped = no.filter(({ stops }) => stops)
  if (stopped.length) return { is: 'no', because: stopped }
  const open = checks.filter(({ is, stops }) => is === 'ask' && stops)
  if (open.length) return { is: 'ask', because: open }
  const limits = checks.filter(({ is, stops }) => is !== 'yes' && !stops)
  return limits.length ? { is: 'part', because: limits } : { is: 'go', because: [] }
}
