/** Offers: articles with prices, what a plan comes to, and what a customer takes of it. */
export * from './article-words'
export * from './gtin'
export * from './price'
export * from './from-plan'
export * from './change'
export type { Article, ArticleBody } from './article.schema'
export type { QuoteContent, QuoteLine, Ticks } from './content.schema'
export * from './replan'
