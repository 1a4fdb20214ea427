import type { Messages } from '../../ports/messages'

const isNumber = (to: string) => /^\+?[\d\s().-]+$/.test(to) && to.replace(/\D/g, '').length >= 6
const isMailbox = (to: string) => /^[^\s@]+@[^\s@]+$/.test(to)

/** A mail and text service that sends nothing: it says what a real one would say of the address, and keeps no copy. */
export const messages: Messages = {
  send: async ({ id, channel, to }) => {
    if (channel === 'sms' && !isNumber(to)) return { is: 'refused', reason: `“${to}” is no telephone number.` }
    if (channel === 'mail' && !isMailbox(to)) return { is: 'refused', reason: `“${to}” is no mailbox.` }
    return { is: 'sent', reference: `stand-in ${id.slice(-12)}` }
  },
}
