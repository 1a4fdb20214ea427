import { defineRoute } from '../../http/route'
import { isSetUp } from '../../services/company'

export default defineRoute({ summary: 'Is there a company yet?', access: 'public' }, async () => ({ needed: !(await isSetUp()) }))
