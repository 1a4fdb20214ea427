import { QueryTypes } from 'sequelize'
import { median } from 'simple-statistics'
import type { PairingCause } from '../../core/commission/pairing/words'
import type { RadioOfPairing } from '../../core/commission/pairing'
import type { CompanyPairing } from '../../core/job'
import { database } from '../database'
import type { Viewer } from './access'

/** So many joinings of a model say how long it takes. */
const fewest = 3

/** What the company has learnt of joining: what had kept devices from it, and how long each model takes. */
export async function companyPairing({ companyId }: Viewer): Promise<CompanyPairing> {
  const rows = await database().sequelize.query<{
    modelId: string
    radio: RadioOfPairing
    cause: PairingCause | null
    seconds: number | null
  }>('SELECT model_id AS modelId, radio, cause, seconds FROM pairings WHERE company_id = ?', {
    replacements: [companyId],
    type: QueryTypes.SELECT,
  })
  const company: CompanyPairing = { causes: {}, models: {} }
  const times: Record<string, number[]> = {}
  for (const { modelId, radio, cause, seconds } of rows) {
    const model = (company.models[modelId] ??= { causes: {}, joins: null })
    if (seconds !== null) (times[modelId] ??= []).push(seconds / 60)
    if (!cause) continue
    const ofRadio = (company.causes[radio] ??= {})
    ofRadio[cause] = (ofRadio[cause] ?? 0) + 1
    model.causes[cause] = (model.causes[cause] ?? 0) + 1
  }
  for (const [modelId, minutes] of Object.entries(times))
    if (minutes.length >= fewest) company.models[modelId]!.joins = Math.max(0.5, median(minutes))
  return company
}
