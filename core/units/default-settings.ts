import { defaultMoney } from '../money/default-settings'
import type { BranchSettings } from './branch-settings'

/** What a branch that has chosen nothing works by: the defaults of the schema, for screens that do not load it. */
export const defaultBranchSettings: BranchSettings = {
  locale: null,
  connectionOrder: 'groundNeutralLoadLine',
  twistFirst: false,
  tapeConnectors: false,
  keepPlateOff: true,
  pairingSchool: 'makerFirst',
  necEdition: '2020',
  proofEveryPair: false,
  testsWiresOut: false,
  proofLimitMinutes: 120,
  loopShare: 'annex',
  connectors: [],
  money: defaultMoney,
  school: 'switches',
  day: {
    shiftFrom: '07:30',
    shiftTo: '16:30',
    overtimeMinutes: 90,
    restMinutes: 30,
    restFrom: '11:00',
    restTo: '13:30',
    storeAddress: '',
    workdays: [1, 2, 3, 4, 5],
    skills: ['motors', 'networks', 'high ladders'],
    callbackDays: 3,
    telephone: '',
  },
}
