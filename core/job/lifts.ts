/** Models of before say nothing of what was added to the catalogue later. */
const laterInModels = { leadsInterchangeable: false, metering: false, channelAmps: null }
/** Of models that were chosen before their terminals, plates and partners were on record. */
const fitOfModels = {
  termination: null,
  ownPlate: false,
  oneGangOnly: false,
  besideOne: 1,
  betweenTwo: 1,
  family: '',
  radio: 'unknown',
}
/** Of models that were chosen before it was on record how they are started anew, and whether they break both conductors. */
const laterStill = { bothPoles: false, restart: '', reset: '' }
export const withGesturesOfModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, laterStill, payload.model) })
export const withFitOfModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, fitOfModels, payload.model) })
/** Of models that were chosen before it was on record what they show while they are joined. */
const pairingOfModels = { restartsBy: 'unknown', ownNetwork: '', signs: [] as unknown[] }
export const withPairingOfModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, pairingOfModels, payload.model) })
/** Of models that were chosen before it was on record what hands do at them. */
export const withHandsOfModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, { gestures: [] as unknown[] }, payload.model) })
/** Boxes at fixtures were not tied to their points before. */
const atFixture = (point: object) => Object.assign({ fixtureBoxId: null }, point)
export const withFixture = (payload: Record<string, unknown>) => ({
  ...payload,
  ...(payload.points ? { points: (payload.points as object[]).map(atFixture) } : {}),
  ...(payload.point ? { point: atFixture(payload.point) } : {}),
  ...(payload.was ? { was: atFixture(payload.was) } : {}),
})
/** A device had one name before, whatever it switched. */
export const withPointNamed = (payload: Record<string, unknown>) => ({ pointId: null, ...payload })
export const withModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, laterInModels, payload.model) })
