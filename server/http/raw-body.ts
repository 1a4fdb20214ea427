import type { IncomingMessage } from 'node:http'
import { getRequestHeader, type H3Event } from 'h3'
import rawBody from 'raw-body'
import { ApiError } from '../services/errors'

/** Whoever is refused may send so much more, unread, before the line is cut: else the answer would be lost with it. */
const mostThrownAwayBytes = 24 * 1024 * 1024

/**
 * The body of a request, at most so many bytes of it, also where its length was not said beforehand.
 * @param sentence what is said of one that is longer
 */
export async function bodyWithin(event: H3Event, limitBytes: number, sentence: string): Promise<Buffer> {
  const length = getRequestHeader(event, 'content-length')
  try {
    return await rawBody(event.node.req, { limit: limitBytes, length: length === undefined ? null : Number(length) })
  } catch (error) {
    if ((error as { type?: string }).type !== 'entity.too.large')
      throw new ApiError(400, 'brokenOff', 'The request broke off. Send it again.')
    throwAway(event.node.req)
    throw new ApiError(413, 'tooLarge', sentence)
  }
}
function throwAway(request: IncomingMessage): void {
  let bytes = 0
  request.on('data', (piece: Buffer) => {
    bytes += piece.length
    if (bytes > mostThrownAwayBytes) request.destroy()
  })
  request.resume()
}
