import type { Transaction } from 'sequelize'
import type { FeedTopic } from '../../core/protocol'
import { transacted } from '../database'
import { hub } from '../realtime/hub'
import type { Viewer } from './access'
import { announce } from './feed'

/** Runs a change to a managed list and announces it in the same transaction. */
export async function changeList<T>(viewer: Viewer, topic: FeedTopic, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const result = await transacted(async (transaction) => {
    const value = await work(transaction)
    await announce(viewer.companyId, [{ topic, branchId: null }], transaction)
    return value
  })
  hub.wake(viewer.companyId)
  return result
}
