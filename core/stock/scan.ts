import type { DeviceModel } from '../fit/device-schema'
import { gtin14, gtinIsValid } from '../quote/gtin'
import { articleName } from '../quote/article-words'
import type { Article } from '../quote/article.schema'

/**
 * The number in whatever a scanner read: bare digits, with the identifier (01) before it, or in a link that carries /01/.
 * @returns as GTIN-14; null: there is no valid number in it
 * Source: GS1 General Specifications (AI 01), GS1 Digital Link URI syntax.
 */
export function gtinIn(text: string): string | null {
  const read = text.trim().replace(/^\]\w\d/, '')
  const found = /\/01\/(\d{8,14})(?:\D|$)/.exec(read)?.[1] ?? /^\(?01\)?(\d{14})/.exec(read)?.[1] ?? read.replace(/[\s-]/g, '')
  return gtinIsValid(found) ? gtin14(found) : null
}

type Sold = Pick<Article, 'id' | 'name' | 'maker' | 'gtin' | 'refId' | 'kind'>
export type Scan =
  | { is: 'right'; article: Sold }
  /** It is on no list of this job, and looks like one that is. */
  | { is: 'lookAlike'; article: Sold; wanted: Sold; differs: string }
  | { is: 'notWanted'; article: Sold }
  | { is: 'unknown'; read: string }
  | { is: 'unreadable'; read: string }

/** What two models differ in, as one sees it on their backs. */
function difference(wrong: DeviceModel, right: DeviceModel): string {
  const leads = (one: DeviceModel) => new Set<string>(one.terminals)
  const words: Record<string, string> = {
    neutral: 'neutral',
    sense: 'switch input',
    load2: 'second load',
    fan: 'fan',
    traveler1: 'traveler',
    ground: '{ground}',
  }
  const missing = [...leads(right)].filter((lead) => !leads(wrong).has(lead) && words[lead])
  const extra = [...leads(wrong)].filter((lead) => !leads(right).has(lead) && words[lead])
  if (missing.length) return `it has no ${words[missing[0]!]} lead`
  if (extra.length) return `it has a ${words[extra[0]!]} lead more`
  if (wrong.needsHub !== right.needsHub) return wrong.needsHub ? 'it wants a hub' : 'it joins without a hub'
  if (!wrong.schemes.some((scheme) => right.schemes.includes(scheme))) return 'it is for another supply'
  return wrong.kind === right.kind ? 'it is another model' : `it is a ${wrong.kind}`
}
/** Of one maker and much alike in name, or of one kind: taken for each other at the shelf. */
function alike(a: Sold, b: Sold): boolean {
  const words = ({ name }: Sold) =>
    new Set(
      name
        .toLowerCase()
        .split(/[^a-z0-9]+/)
        .filter((word) => word.length > 2),
    )
  const common = [...words(a)].filter((word) => words(b).has(word)).length
  return a.kind === b.kind && a.maker === b.maker && common > 0
}

/** Is what was scanned one of those wanted? The look-alike is named with what it differs in, at the shelf and not at the wall. */
export function judgeScan(text: string, wanted: readonly Sold[], all: readonly Sold[], models: readonly DeviceModel[]): Scan {
  const number = gtinIn(text)
  if (!number) return { is: 'unreadable', read: text.trim() }
  const of = (articles: readonly Sold[]) => articles.find(({ gtin }) => gtin !== '' && gtin14(gtin) === number)
  const right = of(wanted)
  if (right) return { is: 'right', article: right }
  const article = of(all)
  if (!article) return { is: 'unknown', read: number }
  const meant = wanted.filter((one) => alike(one, article))
  if (!meant.length) return { is: 'notWanted', article }
  const modelOf = ({ refId }: Sold) => models.find(({ id }) => id === refId)
  const shared = (one: Sold) =>
    one.name
      .toLowerCase()
      .split(/[^a-z0-9]+/)
      .filter((word) => word.length > 2 && article.name.toLowerCase().includes(word)).length
  const closest = meant.reduce((best, one) => (shared(one) > shared(best) ? one : best))
  const [wrong, should] = [modelOf(article), modelOf(closest)]
  return { is: 'lookAlike', article, wanted: closest, differs: wrong && should ? difference(wrong, should) : 'it is another article' }
}
export function scanWords(scan: Scan): string {
  switch (scan.is) {
    case 'right':
      return `${articleName(scan.article)}: right.`
    case 'lookAlike':
      return `Not this one: ${articleName(scan.article)} looks like ${articleName(scan.wanted)}, but ${scan.differs}. Put it back.`
    case 'notWanted':
      return `${articleName(scan.article)} is not wanted for this job.`
    case 'unknown':
      return `${scan.read} is on no list of this branch.`
    case 'unreadable':
      return `“${scan.read.slice(0, 40)}” is no number of an article: look for the bars, and type all their digits.`
  }
}
