import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { isSetUp } from '../../services/setup'

export default defineRoute(company.isSetUp, async () => ({ needed: !(await isSetUp()) }))
