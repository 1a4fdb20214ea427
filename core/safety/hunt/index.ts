export * from './belief'
export * from './plan'
export * from './site'
export * from './directory'
