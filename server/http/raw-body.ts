import { getRequestHeader, setResponseHeader, type H3Event } from 'h3'
import rawBody from 'raw-body'
import { ApiError } from '../services/errors'

/**
 * The body of a request, at most so many bytes of it, also where its length was not said beforehand. What is longer is not read to
 * its end: the connection is closed with the answer.
 * @param sentence what is said of one that is longer
 */
export async function bodyWithin(event: H3Event, limitBytes: number, sentence: string): Promise<Buffer> {
  const length = getRequestHeader(event, 'content-length')
  try {
    return await rawBody(event.node.req, { limit: limitBytes, length: length === undefined ? null : Number(length) })
  } catch (error) {
    if ((error as { type?: string }).type !== 'entity.too.large')
      throw new ApiError(400, 'brokenOff', 'The request broke off. Send it again.')
    setResponseHeader(event, 'connection', 'close')
    throw new ApiError(413, 'tooLarge', sentence)
  }
}
