export { typedHours, typedNumber } from '../../core/units/typed-number'
