import { z } from 'zod'

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written as 07:30.')
export const positionSchema = z.tuple([z.number().min(-180).max(180), z.number().min(-90).max(90)])
/** Longitude and latitude in degrees, WGS 84, as GeoJSON has them (RFC 7946). */
export type Position = z.infer<typeof positionSchema>
export const roadKinds = ['street', 'road', 'bridge', 'ferry'] as const

const segment = z.object({
  type: z.literal('Feature'),
  properties: z.object({
    kind: z.enum(roadKinds),
    name: z.string(),
    town: z.string().default(''),
    /** Only in the direction of the line. */
    oneWay: z.boolean().default(false),
    kmh: z.number().min(0).max(200),
    /** A bridge that opens for boats: daily, by the clock of the place. */
    closed: z.array(z.object({ from: clock, to: clock })).default([]),
    /** A ferry: when it leaves, daily, by the clock of the place. */
    departures: z.array(clock).default([]),
    crossingMinutes: z.number().min(0).max(600).default(0),
  }),
  geometry: z.object({ type: z.literal('LineString'), coordinates: z.array(positionSchema).min(2) }),
})
/** A road graph as GeoJSON: each feature is a stretch between two junctions; stretches meet where their ends have the same position. */
export const roadMapSchema = z
  .object({
    type: z.literal('FeatureCollection'),
    /** How speeds fall by the time of day: a share of the speed of the stretch. */
    traffic: z
      .array(
        z.object({
          kind: z.enum(roadKinds),
          weekdays: z.array(z.int().min(1).max(7)),
          from: clock,
          to: clock,
          share: z.number().gt(0).max(1),
        }),
      )
      .default([]),
    features: z.array(segment).min(1),
  })
  .superRefine(({ features }, context) => {
    for (const [index, { properties }] of features.entries()) {
      if (properties.kind === 'ferry' ? !properties.departures.length || !properties.oneWay : properties.kmh <= 0)
        context.addIssue({
          code: 'custom',
          path: ['features', index],
          message: properties.kind === 'ferry' ? 'A ferry leaves at some time, one way.' : 'A road has a speed.',
        })
    }
  })
export type RoadMap = z.infer<typeof roadMapSchema>
export type Stretch = RoadMap['features'][number]
