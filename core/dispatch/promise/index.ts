/** What a customer is promised and told. */
export * from './late'
export * from './prepare'
export * from './letters'
