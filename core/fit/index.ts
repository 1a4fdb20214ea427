/** Will it fit, will it carry: box fill, back-box depth, device models against loads. */
export * from './words'
export * from './box-fill'
export * from './depth'
export * from './device-model'
export * from './device-schema'
export * from './box-report'
