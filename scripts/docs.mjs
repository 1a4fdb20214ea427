// npm run docs:api: writes docs/api.md and docs/job.schema.json from the schemas.
import { readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createJiti } from 'jiti'
import { root, say } from './lib/host.mjs'

const jiti = createJiti(import.meta.url)
const { apiReference, routeOfFile } = await jiti.import('../server/http/reference.ts')
const { jobFileJsonSchema } = await jiti.import('../core/format/index.ts')
const files = readdirSync(join(root, 'server/api'), { recursive: true })
  .filter((name) => name.endsWith('.ts'))
  .sort()
const routes = []
for (const file of files) routes.push(routeOfFile(file, (await jiti.import(`../server/api/${file}`)).default.contract))
writeFileSync(join(root, 'docs/api.md'), apiReference(routes))
writeFileSync(join(root, 'docs/job.schema.json'), `${JSON.stringify(jobFileJsonSchema(), null, 2)}\n`)
say(`Wrote ${routes.length} routes.`)
process.exit(0)
