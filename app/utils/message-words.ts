import type { MessageLine } from '../../core/protocol'

/** What became of a message. */
export const messageStates: Record<MessageLine['state'], string> = { waiting: 'Goes out', sent: 'Sent', failed: 'Not sent' }
