import { company } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { isSetUp, setUpCode } from '../../services/setup'

export default defineRoute(company.isSetUp, async () => {
  const needed = !(await isSetUp())
  return { needed, asksCode: needed && setUpCode() !== '' }
})
