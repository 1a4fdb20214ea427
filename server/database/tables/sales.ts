import type { ArticleKind } from '../../../core/quote/article-words'
import { as, date, flag, id, int, orNull, table, text, time, type RowOf } from './columns'

/** What a branch sells and keeps. */
export const articles = table('articles', {
  id,
  companyId: id,
  branchId: id,
  kind: as<ArticleKind>(text),
  refId: orNull(id),
  maker: text,
  name: text,
  /** As GTIN-14. */
  gtin: orNull(text),
  priceCents: orNull(int),
  active: flag,
  data: text,
})

type QuoteStatus = 'open' | 'accepted' | 'declined' | 'withdrawn' | 'replaced'
export const quotes = table('quotes', {
  id,
  companyId: id,
  branchId: id,
  jobId: id,
  kind: as<'quote' | 'change'>(text),
  version: int,
  /** As it stands on the paper. */
  number: text,
  status: as<QuoteStatus>(text),
  tokenHash: text,
  tokenSealed: text,
  content: text,
  ticks: orNull(text),
  totalCents: orNull(int),
  signer: orNull(text),
  strokes: orNull(text),
  reason: text,
  madeBy: id,
  madeAt: time,
  validUntil: date,
  decidedAt: orNull(time),
})
export type QuoteRow = RowOf<typeof quotes>
