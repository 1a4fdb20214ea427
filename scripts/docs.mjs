// npm run docs:api: writes docs/openapi.json and docs/job.schema.json from the schemas.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createJiti } from 'jiti'
import { root, say } from './lib/host.mjs'

const jiti = createJiti(import.meta.url)
const { openApi } = await jiti.import('../server/http/reference.ts')
const { jobFileJsonSchema } = await jiti.import('../core/format/index.ts')
for (const [file, content] of [
  ['openapi.json', openApi()],
  ['job.schema.json', jobFileJsonSchema()],
])
  writeFileSync(join(root, 'docs', file), `${JSON.stringify(content, null, 1)}\n`)
say('Wrote docs/openapi.json and docs/job.schema.json.')
process.exit(0)
