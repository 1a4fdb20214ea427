import { renderDrawings, renderPaper, type Printing } from '../workers/render-paper'
import { ApiError } from './errors'
import { Beside } from './thread'

const papers = new Beside<Printing, Uint8Array>(
  'papers',
  (what) => (what.kind === 'paper' ? renderPaper(what.paper) : renderDrawings(what.title, what.schemeId, what.svgs, what.widthMm)),
  {
    // Choices of ours, no source.
    ...{ mostWaiting: 40, longest: 60_000 },
    whenManyWait: () => new ApiError(503, 'papersWait', 'Many papers are being made just now. Try again in a minute.'),
    whenTooLong: () => new ApiError(503, 'paperTooLong', 'This paper took too long to be made.'),
  },
)
export const papersWaiting = (): number => papers.waiting

/**
 * A paper, laid out beside everything else the server does, one after the other; not at all once whoever asked has gone.
 * @throws ApiError 503 where too many wait, or it took too long
 */
export async function printed(what: Printing): Promise<Buffer> {
  const bytes = await papers.made(what)
  return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)
}
