import type { StreamEvent } from '../../core/stream'

/** An event as it may leave the server: sealed secrets stay behind. */
export function publicEvent(event: StreamEvent): StreamEvent {
  const payload = event.payload as { code?: { sealed: string | null } }
  return payload.code ? { ...event, payload: { ...payload, code: { ...payload.code, sealed: null } } } : event
}
