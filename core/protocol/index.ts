/** What app and server say to each other. The app takes types from here, and no more: schemas stay out of its pages. */
import type { AnswerOf, Contract, Submission } from './contract'
import * as company from './company'
import * as dispatch from './dispatch'
import * as erasures from './erasures'
import * as homes from './homes'
import * as insight from './insight'
import * as jobs from './jobs'
import * as links from './links'
import * as people from './people'
import * as promises from './promises'
import * as record from './record'
import * as requests from './requests'
import * as sales from './sales'
import * as sites from './sites'
import * as stock from './stock'

export { company, dispatch, erasures, homes, insight, jobs, links, people, promises, record, requests, sales, sites, stock }
export type { AnswerOf, BodyOf, Contract, Deed, PaperTold, Submission } from './contract'
export type { LearntDuration, PlannedVisit } from './dispatch'
export type { Branch, CatalogueModel, Instrument } from './company'
export type {
  AlikeCallback,
  CallbackLine,
  BatteryLine,
  OutDeviceLine,
  DayVisit,
  IntakeRequest,
  IntakeSource,
  JobLine,
  JobPage,
  KnownHome,
  UnitLine,
} from './jobs'
export type { Erasable, ErasureKind } from './erasures'
export type { HomeCode, HomePage, KeptHomePage } from './homes'
export type { DeviceFailure, Insight, OwnInsight, ModelInsightLine, WorkInsight } from './insight'
export type { DeviceLinkLine, JobLink, LinkAskLine } from './links'
export type { AccessLine, PersonView, Restored, BackupState, Tried, SecretRead, Viewer, WaitingAlarm } from './people'
export type { MessageLine, VisitFacts, VisitPage, Way } from './promises'
export type { FeedMessage, FeedTopic } from './record'
export type { RequestLine } from './requests'
export type { Article, Offer, QuoteLineView } from './sales'
export type { PickLine, PurchaseLine, ReorderLine, StockLine, StockMoveLine, StockPlace } from './stock'
export type { OtherRecord, Present, SiteLine, LoneWorkWatch } from './sites'

const rooms = { company, dispatch, erasures, homes, insight, jobs, links, people, promises, record, requests, sales, sites, stock }
type ContractsOf<Room> = Room extends unknown ? Extract<Room[keyof Room], Contract> : never
type Contracts = ContractsOf<(typeof rooms)[keyof typeof rooms]>
/** Every contract by its route: `GET /api/jobs`. */
export type Api = { [C in Contracts as C['route']]: C }
export type Route = keyof Api & string
export type ApiGiven<R extends Route> = Submission<Api[R]>
export type ApiAnswer<R extends Route> = AnswerOf<Api[R]>

/** A fault the server tells of. */
export interface ApiProblem {
  error: { code: string; message: string; details: unknown }
}

const isContract = (value: unknown): value is Contract => typeof value === 'object' && value !== null && 'route' in value
/** Every contract there is, by its route, in order. */
export const contracts: ReadonlyMap<string, Contract> = new Map(
  Object.values<Record<string, unknown>>(rooms)
    .flatMap((room) => Object.values(room).filter(isContract))
    .sort((a, b) => (a.route.split(' ')[1]! < b.route.split(' ')[1]! ? -1 : 1))
    .map((one) => [one.route, one]),
)
