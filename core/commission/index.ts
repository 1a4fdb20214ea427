/** Commissioning: setup codes, names, radio level and the functional test. */
export * from './verhoeff'
export * from './setup-code'
export * from './names'
export * from './signal'
export * from './functional-checks'
