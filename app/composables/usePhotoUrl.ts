/** Where a picture can be had: on this device while it waits to be sent, else from the server, whole or as it stands in a list. */
export function usePhotoUrl() {
  const outbox = useOutbox()
  const made = new Map<string, string>()
  onScopeDispose(() => made.forEach((url) => URL.revokeObjectURL(url)))
  return (photoId: string, size: 'full' | 'small' = 'full'): string => {
    const waiting = outbox.entries.find(({ photo }) => photo?.id === photoId)?.photo
    if (!waiting) return `/api/photos/${photoId}${size === 'small' ? '?size=small' : ''}`
    if (!made.has(photoId)) made.set(photoId, URL.createObjectURL(waiting.blob))
    return made.get(photoId)!
  }
}
