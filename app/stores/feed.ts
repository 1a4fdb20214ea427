import { defineStore } from 'pinia'
import type { StreamEvent } from '../../core/stream'
import type { FeedTopic } from '../../core/protocol'

export interface FeedChange {
  seq: number
  topic: FeedTopic
  streamId: string | null
  events: StreamEvent[]
}
type Listener = (change: FeedChange) => void

/** The server says it is still there every 15 s; after this silence the connection counts as lost, ms. */
const longestSilenceMs = 40_000

/** The one live connection of this window. Screens listen; nothing polls. */
export const useFeed = defineStore('feed', () => {
  const status = ref<'off' | 'connecting' | 'live' | 'lost'>('off')
  const lostSince = ref<number | null>(null)
  /** The server has fewer entries than this window had heard of: some that were stored are gone. */
  const wentBack = ref<number | null>(null)
  const listeners = new Set<Listener>()
  const resetListeners = new Set<() => void>()
  let source: EventSource | null = null
  let cursor: number | null = null
  let retry: ReturnType<typeof setTimeout> | null = null
  let silence: ReturnType<typeof setTimeout> | null = null

  function lose() {
    lostSince.value ??= Date.now()
    status.value = 'lost'
  }
  function heard() {
    if (silence) clearTimeout(silence)
    silence = setTimeout(() => {
      lose()
      open()
    }, longestSilenceMs)
  }
  // A phone that knows that it has no network says so at once, and comes back at once.
  window.addEventListener('offline', () => {
    if (status.value === 'off') return
    source?.close()
    lose()
  })
  window.addEventListener('online', () => {
    if (status.value === 'lost') open()
  })

  function open() {
    source?.close()
    heard()
    if (status.value !== 'lost') status.value = 'connecting'
    source = new EventSource(cursor === null ? '/api/feed' : `/api/feed?from=${cursor}`)
    source.addEventListener('beat', heard)
    source.addEventListener('hello', (message) => {
      heard()
      const { seq, reset } = JSON.parse(message.data) as { seq: number; reset: boolean }
      const missed = cursor === null || reset
      if (cursor !== null && seq < cursor) wentBack.value = Date.now()
      cursor = seq
      status.value = 'live'
      lostSince.value = null
      // Pages fetched before the connection stood may be behind: they fetch again.
      if (missed) for (const listener of resetListeners) listener()
    })
    source.addEventListener('change', (message) => {
      heard()
      const change = JSON.parse(message.data) as FeedChange
      cursor = change.seq
      for (const listener of [...listeners]) listener(change)
    })
    source.addEventListener('ended', () => {
      close()
      status.value = 'lost'
      lostSince.value ??= Date.now()
      useSession().expired = true
    })
    source.onerror = () => {
      lose()
      // The browser gives up on some errors; open again with our own cursor.
      if (source?.readyState === EventSource.CLOSED && retry === null)
        retry = setTimeout(() => {
          retry = null
          if (status.value === 'lost') open()
        }, 1500)
    }
  }
  function close() {
    source?.close()
    source = null
    if (silence) clearTimeout(silence)
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
  return { status, lostSince, wentBack, open, close, listen }
})
