export { counted, listed } from '../../core/units/counted'
