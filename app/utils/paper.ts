import type { PaperTold } from '../../core/protocol'

/** How far a paper is. */
export type PaperState =
  { is: 'asked' } | { is: 'waiting'; before: number } | { is: 'making' } | { is: 'made' } | { is: 'failed'; message: string }

const lineLost = 'The connection was lost before it was made. Nothing is wrong with the paper: try again.'
/** What a paper is called, by the last part of its address. No other address is asked from a link that somebody sent. */
const names: Record<string, string> = {
  pack: 'Handover pack',
  claim: 'Claim',
  verification: 'Verification',
  schedules: 'Schedules',
  survey: 'Survey',
  'bag-labels': 'Labels of the bags',
  'name-labels': 'Labels',
  'guest-card': 'Card for guests',
  paper: 'Offer',
  directory: 'Directory',
  sheet: 'Day sheet',
  file: 'Your home',
}
export const paperName = (address: string): string | null =>
  /^\/api\/[\w/.-]+(\?.*)?$/.test(address) ? (names[address.split('?')[0]!.split('/').at(-1)!] ?? null) : null

/**
 * Asks for a paper and says how far it is; the browser opens it by its own address once it is made.
 * @param heard every change, the last one made or failed
 */
export async function awaitPaper(address: string, signal: AbortSignal, heard: (state: PaperState) => void): Promise<void> {
  heard({ is: 'asked' })
  try {
    const answer = await fetch(address, { headers: { 'x-circuitry-tells': '1' }, credentials: 'same-origin', signal })
    if (!answer.ok || !answer.headers.get('content-type')?.startsWith('application/x-ndjson')) {
      const said = (await answer.json().catch(() => null)) as { error?: { message: string } } | null
      return heard({ is: 'failed', message: said?.error?.message ?? 'Something went wrong on the server. Nothing was changed.' })
    }
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader()
    let text = ''
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      const lines = (text + part.value).split('\n')
      text = lines.pop()!
      for (const line of lines) {
        const told = JSON.parse(line) as PaperTold
        if ('made' in told) return heard({ is: 'made' })
        if ('problem' in told) return heard({ is: 'failed', message: told.problem.message })
        heard(told.before ? { is: 'waiting', before: told.before } : { is: 'making' })
      }
    }
    heard({ is: 'failed', message: lineLost })
  } catch {
    if (!signal.aborted) heard({ is: 'failed', message: lineLost })
  }
}
