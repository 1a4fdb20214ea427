export { markOf } from '../../core/safety'
