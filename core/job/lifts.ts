/** What was added to models after they were chosen is put beside what was stored of them. */
const inModel = (later: object) => (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, later, payload.model) })

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
export const withGesturesOfModel = inModel(laterStill)
export const withFitOfModel = inModel(fitOfModels)
/** Of models that were chosen before it was on record what they show while they are joined. */
const pairingOfModels = { restartsBy: 'unknown', ownNetwork: '', signs: [] as unknown[] }
export const withPairingOfModel = inModel(pairingOfModels)
/** Of models that were chosen before it was on record what hands do at them. */
export const withHandsOfModel = inModel({ gestures: [] as unknown[] })
/** Of models that were chosen before it was on record which battery they run on. */
export const withBatteryOfModel = inModel({ battery: '', batteryYears: null })
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
export const withModel = inModel(laterInModels)
