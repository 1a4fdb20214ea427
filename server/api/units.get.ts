import { z } from 'zod'
import { defineRoute } from '../http/route'
import { findUnits } from '../services/jobs'

export default defineRoute(
  {
    summary: 'Installed units by any words of serial, name, home, street, customer, phone or room.',
    access: 'crew',
    query: z.object({ search: z.string().max(100).default('') }),
  },
  async ({ viewer, query }) => ({ units: await findUnits(viewer, query.search) }),
)
