import { gtinDigit } from '../../core/quote/gtin'
import type { ArticleBody } from '../../core/quote/article.schema'
import type { DeviceModel, Part } from '../../core/fit'
import type { SchemeId } from '../../core/units'

/** Numbers under the bars of invented articles: of the range that GS1 keeps for use inside a company (prefix 2). */
const inventedGtin = (number: number): string => {
  const body = `2${String(number).padStart(11, '0')}`
  return body + gtinDigit(body)
}
const half = (cents: number) => Math.round((cents * 0.58) / 5) * 5

/** Invented prices to begin with, net, in cents of the branch’s currency. */
function devicePrice(model: DeviceModel): number {
  const base = { switch: 3900, dimmer: 4900, fanControl: 5600, companion: 2200, relayModule: 3400, sender: 1900 }[model.kind]
  const channels = model.terminals.filter((terminal) => terminal === 'load2' || terminal === 'fan').length * 1200
  const more = (model.metering ? 1100 : 0) + (model.ownPlate ? 600 : 0) + (model.bothPoles ? 900 : 0) + (model.maxWatts.led > 250 ? 700 : 0)
  const maker = { 'Harrow Reach': 600, 'Penwick Row': 300, 'Sable Yard': 0, Mossgate: -200, 'Corran & Fell': 100 }[model.maker] ?? 0
  return base + channels + more + maker
}
const partPrice = (part: Part): number | null => {
  switch (part.kind) {
    case 'plate':
      return (part.plate === 'metal' ? 900 : part.plate === 'midSize' ? 420 : 290) * part.gangs
    case 'connector':
      return 35
    case 'lamp':
      return part.technology === 'led' ? 450 : 300
    case 'box':
      return 650
  }
}

/** What is sold together, by the names of the list: less than its parts cost singly. */
export const starterKits = [
  {
    maker: 'Sable Yard',
    name: 'Slate starter kit',
    contents: { 'Slate hub': 1, 'Slate dimmer, no neutral': 2 } as Record<string, number>,
    share: 0.86,
  },
]
/** @param listed articles of the branch as they are stored */
export function starterKitBodies(listed: { id: string; body: ArticleBody }[]): ArticleBody[] {
  return starterKits.flatMap(({ maker, name, contents, share }, index): ArticleBody[] => {
    const inside = Object.entries(contents).map(([part, quantity]) => ({ one: listed.find(({ body }) => body.name === part), quantity }))
    if (inside.some(({ one }) => !one)) return []
    const singly = inside.reduce((sum, { one, quantity }) => sum + one!.body.supplies[0]!.costCents * quantity, 0)
    return [
      {
        kind: 'kit',
        refId: null,
        maker,
        name,
        gtin: inventedGtin(9000 + index),
        priceCents: null,
        bin: false,
        shelf: '',
        supplies: [{ supplier: 'Sallow Trade Counter', costCents: Math.round((singly * share) / 5) * 5, leadDays: 1, packOf: 1 }],
        works: [],
        contents: inside.map(({ one, quantity }) => ({ articleId: one!.id, quantity })),
        lamp: null,
        holds: null,
        mostWatts: null,
      },
    ]
  })
}

/** The list of a new branch: what its lists hold under its supply, and what else a plan needs. Everything in it is invented, and edited in the app. */
export function starterArticles(models: DeviceModel[], parts: Part[], schemeId: SchemeId): ArticleBody[] {
  const plain = {
    gtin: '',
    bin: false,
    shelf: '',
    supplies: [] as ArticleBody['supplies'],
    works: [] as ArticleBody['works'],
    contents: [] as ArticleBody['contents'],
    lamp: null,
    holds: null,
    mostWatts: null,
  }
  let count = 0
  const priced = (body: Pick<ArticleBody, 'kind' | 'refId' | 'maker' | 'name' | 'priceCents'> & Partial<ArticleBody>): ArticleBody => {
    count++
    const cents = body.priceCents ?? 0
    return {
      ...plain,
      gtin: inventedGtin(count),
      shelf: `${String.fromCharCode(65 + Math.floor(count / 12))}${(count % 12) + 1}`,
      supplies: [
        { supplier: 'Sallow Trade Counter', costCents: half(cents) + 120, leadDays: 1, packOf: 1 },
        { supplier: 'Far Shore Direct', costCents: half(cents), leadDays: 12, packOf: body.kind === 'connector' ? 100 : 5 },
      ],
      ...body,
    }
  }
  const beside = (kind: ArticleBody['kind'], maker: string, name: string, priceCents: number, rest: Partial<ArticleBody> = {}) =>
    priced({ kind, refId: null, maker, name, priceCents, ...rest })
  return [
    ...models
      .filter(({ schemes }) => schemes.includes(schemeId))
      .map((model) => priced({ kind: 'device', refId: model.id, maker: model.maker, name: model.name, priceCents: devicePrice(model) })),
    ...parts
      .filter(({ schemes }) => schemes.includes(schemeId))
      .map((part) =>
        priced({
          kind: part.kind,
          refId: part.id,
          maker: part.maker,
          name: part.name,
          priceCents: partPrice(part),
          bin: part.kind === 'connector',
        }),
      ),
    beside('hub', 'Sable Yard', 'Slate hub', 6900, { holds: 50 }),
    beside('hub', 'Penwick Row', 'Rowan hub', 6400, { holds: 40 }),
    beside('hub', 'Corran & Fell', 'Breakwater hub', 7900, { holds: 50 }),
    beside('smartLamp', 'Mossgate', 'Glow lamp, warm white', 1450, { lamp: { watts: 8, colour: 'warm' } }),
    beside('smartLamp', 'Mossgate', 'Glow lamp, cool white', 1450, { lamp: { watts: 8, colour: 'cool' } }),
    beside('smartLamp', 'Mossgate', 'Glow lamp, any colour', 2650, { lamp: { watts: 9, colour: 'changing' } }),
    beside('guard', 'Quay Works', 'Switch guard', 480),
    beside('remote', 'Mossgate', 'Glow remote, on the wall', 1900),
    beside('lampHolder', 'Mossgate', 'Lamp-holder module', 2300, { mostWatts: 60 }),
    beside('plugIn', 'Mossgate', 'Plug-in module', 2600, { mostWatts: schemeId === 'na120' ? 1500 : 2300 }),
    beside('blank', 'Quay Works', 'Blank insert', 190),
    beside('sundry', 'Quay Works', 'Printed label', 60, { bin: true }),
    beside('sundry', 'Quay Works', 'Pigtail wire, 1 m', 90, { bin: true }),
    beside('sundry', 'Quay Works', 'Mounting pad for modules', 80, { bin: true }),
  ]
}
