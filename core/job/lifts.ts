/** Models of before say nothing of what was added to the catalogue later. */
const laterInModels = { leadsInterchangeable: false, metering: false, channelAmps: null }
export const withModel = ({ model, ...payload }: Record<string, unknown>) => ({
  ...payload,
  model: { ...laterInModels, ...(model as object) },
})
