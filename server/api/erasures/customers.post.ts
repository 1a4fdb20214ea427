import { erasures } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { eraseCustomers } from '../../services/erasures'

export default defineRoute(erasures.eraseCustomers, ({ viewer, body }) => eraseCustomers(viewer, body))
