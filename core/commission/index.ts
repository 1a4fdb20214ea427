/** Commissioning: setup codes, radio level and the functional test. */
export * from './verhoeff'
export * from './setup-code'
export * from './signal'
export * from './functional-checks'
