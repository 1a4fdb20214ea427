import { sites } from '../../core/protocol'
import { defineRoute } from '../http/route'
import { soloWatches } from '../services/presence'

export default defineRoute(sites.listLoneWorkers, ({ viewer }) => soloWatches(viewer))
