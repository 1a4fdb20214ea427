import type { Server } from 'node:http'
import type { Socket } from 'node:net'
import type { NitroApp } from 'nitropack'

/**
 * A connection that rests is kept for longer than the five seconds Node keeps it: a phone that asks now and then does
 * not knock on one that is just being closed.
 */
const restMs = 75_000

export default (nitro: NitroApp) => {
  nitro.hooks.hook('request', (event) => {
    const { server } = event.node.req.socket as Socket & { server?: Server }
    if (server && server.keepAliveTimeout < restMs) server.keepAliveTimeout = restMs
  })
}
