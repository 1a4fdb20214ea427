export { markOf } from '../../core/site'
