export { counted } from '../../core/units/counted'
