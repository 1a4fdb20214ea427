import { gtinIn } from '../../stock/scan'
import { gtin14 } from '../../quote/gtin'
import { partNeeds, inHand } from '../../stock/needs'
import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { MovePart, PartMoved } from './move-part.schema'
import { partMoveWords } from './words'

export const movePart = jobCommand('movePart', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: MovePart, context) {
    if (job.partMoves.some(({ moveId }) => moveId === command.moveId)) return refuse('movedAlready', 'This was noted already.')
    if ((command.as === 'use') !== (command.toId === null))
      return refuse('noWay', 'What is used goes into the wall; anything else to a place.')
    const from = context.stock.place(command.fromId)
    const to = command.toId ? context.stock.place(command.toId) : null
    if (!from || (command.toId && !to)) return refuse('noSuchPlace', 'This store or van is not on record.', 'Pick it again.')
    const article = context.stock.article(command.articleId)
    if (!article) return refuse('noSuchArticle', 'This article is not on the list of the branch.')
    const read = command.scanned ? gtinIn(command.scanned) : null
    if (command.scanned && (!read || !article.gtin || gtin14(article.gtin) !== read))
      return refuse('wrongArticle', `What was scanned is not ${article.name}.`, 'Scan it again, or look which of them it is.')
    if (command.as === 'return') {
      const need = partNeeds(job).find(({ articleId }) => articleId === command.articleId)
      if (!need || inHand(need) < command.quantity) return refuse('notPicked', `So many ${article.name} were not picked for this job.`)
    }
    const there = article.bin ? null : context.stock.level(command.fromId, command.articleId)
    if (there !== null && there < command.quantity && !command.inHand)
      return refuse(
        'notThere',
        there <= 0
          ? `${from} has no ${article.name} any more, by the record.`
          : `${from} has only ${there} ${article.name}, by the record.`,
        'Somebody may have taken it a moment ago. If you have it all the same, say so: then it is counted as found.',
      )
    return done(partMoved({ ...command, from, to, refId: article.refId }))
  },
  label: ({ as, name, quantity }) => `${partMoveWords[as]}: ${quantity} × ${name}`,
})

export const partMoved = jobEvent('partMoved', {
  rows: true,
  evolve(job, payload: PartMoved, event) {
    job.partMoves.push({ ...payload, at: event.receivedAt, by: event.actor.personId })
  },
  say: ({ as, name, quantity, from, to, inHand: found }) =>
    `${partMoveWords[as]} ${quantity} × ${name} ${as === 'use' ? `from ${from}` : `from ${from} to ${to}`}${found ? ', found although the record had none' : ''}`,
})
