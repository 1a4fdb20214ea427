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
export const withFitOfModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, fitOfModels, payload.model) })
export const withModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, laterInModels, payload.model) })
