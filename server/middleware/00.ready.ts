import { defineEventHandler } from 'h3'
import { serverIsReady } from '../http/plugin'

/** Requests wait until the database is migrated. */
export default defineEventHandler(async () => {
  await serverIsReady()
})
