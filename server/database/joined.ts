import type { FindOptions, Model, ModelStatic } from 'sequelize'

/** Plain rows with the rows they belong to nested under their association's name. */
export const joined = async <T>(model: ModelStatic<Model>, options: FindOptions): Promise<T[]> =>
  (await model.findAll({ ...options, raw: true, nest: true })) as unknown as T[]
