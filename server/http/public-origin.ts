import { getRequestURL, type H3Event } from 'h3'

/**
 * Where people reach this server, from CIRCUITRY_ORIGIN (https://circuitry.example): read at run time, the build knows nothing of it.
 * null: nobody said, and each request is believed.
 * @throws where it is no origin
 */
export function saidOrigin(): string | null {
  const said = process.env.CIRCUITRY_ORIGIN?.trim()
  if (!said) return null
  const url = URL.canParse(said) ? new URL(said) : null
  if (!url || !/^https?:$/.test(url.protocol) || url.origin !== said.replace(/\/$/, ''))
    throw new Error(`CIRCUITRY_ORIGIN must be an address without a path, as https://circuitry.example; it is “${said}”.`)
  return url.origin
}
/** Reached over TLS: cookies and browsers stay on it. */
export const overTls = (): boolean => saidOrigin()?.startsWith('https:') ?? false
/** For links and square codes that leave this program. */
export const publicOrigin = (event: H3Event): string => saidOrigin() ?? getRequestURL(event).origin
