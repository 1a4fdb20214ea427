import { readFileSync } from 'node:fs'
import { z } from 'zod'
import { streamSchemas } from '../../core/stream-schemas'

test('whatever may alarm somebody is told them in words', () => {
  const words = readFileSync('app/stores/alarms.ts', 'utf8')
  const alarming = [...streamSchemas.site.payloads].flatMap(([type, payload]) =>
    payload instanceof z.ZodObject && 'alarms' in payload.shape ? [type] : [],
  )
  expect(alarming.length).toBeGreaterThan(20)
  expect(alarming.filter((type) => !new RegExp(`^  ${type}: '`, 'm').test(words))).toEqual([])
})
