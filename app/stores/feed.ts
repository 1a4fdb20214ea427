import { defineStore } from 'pinia'
import type { StreamEvent } from '../../core/stream'
import type { FeedTopic } from '../../server/services/feed'

export interface FeedChange {
  seq: number
  topic: FeedTopic
  streamId: string | null
  events: StreamEvent[]
}
type Listener = (change: FeedChange) => void

/** The one live connection of this window. Screens listen; nothing polls. */
export const useFeed = defineStore('feed', () => {
  const status = ref<'off' | 'connecting' | 'live' | 'lost'>('off')
  const lostSince = ref<number | null>(null)
  const listeners = new Set<Listener>()
  const resetListeners = new Set<() => void>()
  let source: EventSource | null = null
  let cursor: number | null = null
  let retry: ReturnType<typeof setTimeout> | null = null

  function open() {
    source?.close()
    status.value = status.value === 'live' ? 'live' : 'connecting'
    source = new EventSource(cursor === null ? '/api/feed' : `/api/feed?from=${cursor}`)
    source.addEventListener('hello', (message) => {
      const { seq, reset } = JSON.parse(message.data) as { seq: number; reset: boolean }
      const missed = cursor === null || reset
      cursor = seq
      status.value = 'live'
      lostSince.value = null
      // Pages fetched before the connection stood may be behind: they fetch again.
      if (missed) for (const listener of resetListeners) listener()
    })
    source.addEventListener('change', (message) => {
      const change = JSON.parse(message.data) as FeedChange
      cursor = change.seq
      for (const listener of [...listeners]) listener(change)
    })
    source.addEventListener('ended', () => {
      close()
      window.location.assign('/login')
    })
    source.onerror = () => {
      lostSince.value ??= Date.now()
      status.value = 'lost'
      // The browser gives up on some errors; open again with our own cursor.
      if (source?.readyState === EventSource.CLOSED && retry === null) retry = setTimeout(() => { retry = null; if (status.value === 'lost') open() }, 1500)
    }
  }
  function close() {
    source?.close()
    source = null
    status.value = 'off'
  }
  function listen(listener: Listener, onReset?: () => void) {
    listeners.add(listener)
    if (onReset) resetListeners.add(onReset)
    return () => {
      listeners.delete(listener)
      if (onReset) resetListeners.delete(onReset)
    }
  }
  return { status, lostSince, open, close, listen }
})
