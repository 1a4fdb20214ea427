/** Parts by place: how much is wanted, when to order again and where, and whether what is in the hand is the right thing. */
export * from './reorder'
export * from './scan'
export * from './needs'
export * from './words'
export * from './kits'
export * from './tools'
