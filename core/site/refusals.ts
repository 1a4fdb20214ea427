import { refuse } from '../stream/envelope'
import type { Answer } from './permissions'

export const refuseAnswer = (answer: Extract<Answer, { yes: false }>) => refuse(answer.code, answer.reasons, answer.toYes)

export const noBox = () => refuse('noSuchBox', 'There is no such box at this site.')

export const noRoom = () => refuse('noSuchRoom', 'There is no such room at this site.')

export const noBreaker = () => refuse('noSuchBreaker', 'There is no such {breaker} at this site.')

export const noProof = () => refuse('noSuchProof', 'There is no such proof at this site.')

export const noAsk = () => refuse('noSuchAsk', 'This request is no longer open.')
