/** Models of before say nothing of what was added to the catalogue later. */
const laterInModels = { leadsInterchangeable: false, metering: false, channelAmps: null }
export const withModel = (payload: Record<string, unknown>) =>
  Object.assign({}, payload, { model: Object.assign({}, laterInModels, payload.model) })
