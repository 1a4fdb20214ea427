import { z } from 'zod'

/** A room's schemas: `<command>Input` for what is said, `<event>Payload` for what is stored. */
type SchemaRoom = Readonly<Record<string, unknown>>
const named = (rooms: SchemaRoom[], ending: 'Input' | 'Payload') =>
  rooms
    .flatMap((room) => Object.entries(room))
    .flatMap(([name, schema]) =>
      name.endsWith(ending) && schema instanceof z.ZodObject ? [[name.slice(0, -ending.length), schema] as const] : [],
    )
    // However a bundler orders what a module exports.
    .sort(([a], [b]) => (a < b ? -1 : 1))

/** The schema of every command of a stream, by `type`. */
export function commandSchemaOf<C>(rooms: SchemaRoom[]): z.ZodType<C> {
  const [first, ...rest] = named(rooms, 'Input').map(([type, input]) => z.object({ type: z.literal(type), ...input.shape }))
  return z.discriminatedUnion('type', [first!, ...rest]) as unknown as z.ZodType<C>
}

/** Reads payloads by these schemas: null for what is none of its type. */
export const readerOf = (payloads: ReadonlyMap<string, z.ZodType>) => (type: string, payload: unknown) =>
  payloads.get(type)?.safeParse(payload).data ?? null

/** The form of what each kind of entry holds. */
export const payloadsOf = (rooms: SchemaRoom[]): ReadonlyMap<string, z.ZodType> =>
  new Map(named(rooms, 'Payload').map(([type, payload]) => [type, formOf(payload)]))

/**
 * The form of a schema without its limits: lengths, ranges and patterns are for what somebody types today, and may change; what
 * was stored stays as it was. What an entry holds besides is kept: an old one may say more.
 */
function formOf(schema: z.core.$ZodType): z.ZodType {
  const { def } = (schema as z.core.$ZodTypes)._zod
  switch (def.type) {
    case 'object':
      return z.looseObject(Object.fromEntries(Object.entries(def.shape).map(([key, one]) => [key, formOf(one)])))
    case 'array':
      return z.array(formOf(def.element))
    case 'record':
      return z.record(z.string(), formOf(def.valueType))
    case 'union':
      return z.union(def.options.map(formOf))
    case 'nullable':
      return formOf(def.innerType).nullable()
    case 'optional':
      return formOf(def.innerType).optional()
    case 'default':
      return formOf(def.innerType).default(def.defaultValue as never)
    case 'string':
      return z.string()
    case 'number':
      return z.number()
    default:
      return schema as z.ZodType
  }
}
