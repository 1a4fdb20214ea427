import type { ServerResponse } from 'node:http'
import { record, type FeedMessage } from '../../core/protocol'
import { getRequestHeader, setResponseHeaders } from 'h3'
import { defineRoute } from '../http/route'
import { sessionViewer } from '../http/session'
import { hub } from '../realtime/hub'
import { publicEvent } from '../realtime/public-event'
import { isOffice } from '../services/access'
import { ApiError } from '../services/errors'
import { feedSeq } from '../services/feed'
import { connections } from '../services/connections'

/** A client further behind than this fetches its pages again instead of replaying everything. */
const longestReplay = 5000
const longestBacklogBytes = 4_000_000
const heartbeatMs = 15_000
const rightsCheckMs = 20_000
/** More windows than anybody has open; each costs the server a connection. */
const mostOpen = 40

/** A server that stops waits for what it is answering, and a feed is never answered: its phones go to another one, or come back. */
const open = new Set<ServerResponse>()
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    for (const response of open) response.end()
  })

export default defineRoute(record.liveFeed, async ({ event, viewer, query: asked }) => {
  const response = event.node.res
  if (connections.windowsOf(viewer.personId) >= mostOpen)
    throw new ApiError(429, 'manyWindows', 'You have this open in very many windows. Close some.')
  const top = await feedSeq(viewer.companyId)
  const resumed = Number(getRequestHeader(event, 'last-event-id') ?? asked.from ?? NaN)
  const cursor = Number.isInteger(resumed) && resumed >= 0 && resumed <= top ? resumed : top
  const tooOld = top - cursor > longestReplay || (Number.isInteger(resumed) && resumed > top)
  setResponseHeaders(event, {
    'content-type': 'text/event-stream; charset=utf-8',
    'cache-control': 'no-store',
    'x-accel-buffering': 'no',
    connection: 'keep-alive',
  })
  response.flushHeaders()
  const write = (name: string, id: number | null, data: unknown) =>
    !response.writableEnded && response.write(`${id === null ? '' : `id: ${id}\n`}event: ${name}\ndata: ${JSON.stringify(data)}\n\n`)
  response.write('retry: 1000\n\n')
  write('hello', tooOld ? top : cursor, { seq: tooOld ? top : cursor, reset: tooOld })
  const office = isOffice(viewer)
  let { guestOf } = viewer
  // A closed account or login, another branch or role: the connection ends and the client logs in again.
  async function stillMay(): Promise<void> {
    const now = await sessionViewer(event).catch(() => viewer)
    if (now && now.branchId === viewer.branchId && now.role === viewer.role) guestOf = now.guestOf
    else if (!response.destroyed) {
      write('ended', null, {})
      response.end()
    }
  }
  const leave = hub.add({
    companyId: viewer.companyId,
    cursor: tooOld ? top : cursor,
    wants: (message: FeedMessage) =>
      office || message.branchId === null || message.branchId === viewer.branchId || guestOf.includes(message.streamId ?? ''),
    send: (message) => {
      if (response.destroyed || response.writableEnded) return false
      if (message.topic === 'sessions') {
        if (message.streamId !== viewer.personId) return true
        void stillMay()
      }
      // A client that does not keep up is let go: it comes back by itself and resumes where it was.
      if (response.writableLength > longestBacklogBytes) {
        response.end()
        return false
      }
      const { seq, topic, streamId, events } = message
      write('change', seq, { seq, topic, streamId, events: events.map(publicEvent) })
      return true
    },
    deaf: () => response.end(),
  })
  void connections.opened(viewer)
  const beat = setInterval(() => write('beat', null, {}), heartbeatMs)
  const rights = setInterval(() => void stillMay(), rightsCheckMs)
  return new Promise<undefined>((resolve) => {
    const gone = () => {
      open.delete(response)
      clearInterval(beat)
      clearInterval(rights)
      leave()
      void connections.closed(viewer)
      resolve(undefined)
    }
    // A page that was left while this was being opened has closed already, and nobody says so again.
    if (response.destroyed) gone()
    else {
      open.add(response)
      response.once('close', gone)
    }
  })
})
