import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { isSetUp } from '../../services/company'

export default defineRoute(company.isSetUp, async () => ({ needed: !(await isSetUp()) }))
