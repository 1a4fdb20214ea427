// npm run docs:api: writes docs/openapi.json, docs/job.schema.json and docs/automation.schema.json from the schemas.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createJiti } from 'jiti'
import { root, say } from './lib/host.mjs'

const jiti = createJiti(import.meta.url)
const { openApi } = await jiti.import('../server/http/reference.ts')
const { jobFileJsonSchema } = await jiti.import('../core/format/index.ts')
const { automationJsonSchema } = await jiti.import('../core/automation/index.ts')
for (const [file, content] of [
  ['openapi.json', openApi()],
  ['job.schema.json', jobFileJsonSchema()],
  ['automation.schema.json', automationJsonSchema()],
])
  writeFileSync(join(root, 'docs', file), `${JSON.stringify(content, null, 1)}\n`)
say('Wrote docs/openapi.json, docs/job.schema.json and docs/automation.schema.json.')
process.exit(0)
