import { jest } from '@jest/globals'
import { soldOffRecord, soldPoints, soldTotal } from '../../core/job'
import { leaned, waysOf, weightsOf } from '../../core/plan'
import { greedyPlan } from '../../core/plan/greedy'
import { allTicked, priceOf } from '../../core/quote'
import { invoiceSchema } from '../../core/quote/invoice'
import { partNeeds } from '../../core/stock'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith as problem, uuid } from '../testing/world'
import { addArticle, changeArticle, fillArticles, listArticles, modelRecord } from './articles'
import { stockUp } from './branches'
import { makeChange, readAgreed, signChange } from './changes'
import { modelRow, partRow } from './catalogue'
import { planSource } from './plan-source'
import { invoiceCsv, invoiceOf, quotePaper } from './quote-papers'
import { acceptOffer, declineOffer, listQuotes, makeQuote, readOffer, withdrawQuote } from './quotes'
import { addPlace, moveStock, pickList } from './stock'
import { starterCatalogue } from './starter-catalogue'
import { starterParts } from './starter-parts'
import { readState } from './streams'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const strokes = [Array.from({ length: 30 }, (_, index): [number, number] => [index / 40, (index % 5) / 6 + 0.1])]
type Lead = Awaited<ReturnType<typeof makeCompany>>['lead']

async function offered(lead: Lead, school: Parameters<typeof weightsOf>[0] = 'switches', optional: typeof school | null = 'leastMoney') {
  const ids = await open(lead)
  const made = await offerFor(lead, ids.jobId, school, optional)
  return { ...ids, ...made, token: made.link.split('/').at(-1)! }
}
async function offerFor(lead: Lead, jobId: string, school: Parameters<typeof weightsOf>[0], optional: typeof school | null) {
  const { problem: all } = waysOf(await planSource(lead, jobId))
  const plan = (of: typeof school) => greedyPlan(leaned(all, weightsOf(of, 8))).map(({ id }) => id)
  return makeQuote(lead, jobId, { chosen: plan(school), optional: optional ? plan(optional) : null, discountBasisPoints: 0 })
}
async function company() {
  const { lead } = await makeCompany()
  const { models } = database()
  const { companyId, branchId } = lead
  // The first company of a test was set up with lists; others begin without.
  if ((await models.models.count({ where: { companyId } })) === 0) {
    await models.models.bulkCreate(starterCatalogue(uuid).map((model) => modelRow(companyId, model, true)))
    await models.parts.bulkCreate(starterParts(uuid).map((part) => partRow(companyId, part, true)))
    await stockUp(companyId, branchId, 'na120')
  }
  return lead
}

describe('an offer', () => {
  test('signed with one option ticked: the record, the devices on the boxes and the sum follow, once', async () => {
    const lead = await company()
    const { token, jobId, number } = await offered(lead)
    const offer = await readOffer(token)
    expect(offer).toMatchObject({ number, status: 'open', expired: false })
    const [option] = offer.content.options
    const ticks = { ...allTicked(offer.content), options: option ? [option.id] : [] }
    const { sum, taken } = priceOf(offer.content, ticks)
    const given = { ticks, totalCents: sum.totalCents, signer: 'C. Test', strokes }
    expect(await problem(acceptOffer(token, { ...given, totalCents: sum.totalCents - 1 }))).toEqual([409, 'sumDiffers'])
    expect(await problem(acceptOffer(token, { ...given, strokes: [[[0.5, 0.5]]] }))).toEqual([422, 'noSignature'])
    expect(await problem(acceptOffer(token, { ...given, ticks: { stages: ['elsewhere'], options: [] } }))).toEqual([422, 'notOffered'])
    expect(await problem(acceptOffer(token, { ...given, ticks: { stages: [], options: [] } }))).toEqual([422, 'nothingTaken'])
    // Two taps, and one more later: one sale.
    const signed = await Promise.all([acceptOffer(token, given), acceptOffer(token, given)])
    expect(signed[0]).toEqual({ status: 'accepted', number, totalCents: sum.totalCents })
    expect(signed[1]).toEqual(signed[0])
    expect(await acceptOffer(token, given)).toEqual(signed[0])
    expect(await problem(acceptOffer(token, { ...given, signer: 'Somebody else' }))).toEqual([409, 'notOpen'])
    const job = await readState('job', jobId)
    expect(job.sales).toHaveLength(1)
    expect(soldTotal(job)).toBe(sum.totalCents)
    expect(soldPoints(job, await readState('site', job.siteId)).map(({ stands }) => stands)).toEqual(
      taken.map(({ kind }) => (kind === 'leave' ? 'stays' : 'sold')),
    )
    for (const { devices } of taken)
      for (const { boxId, gang, modelId } of devices) expect(job.boxes[boxId]!.devices[gang]?.model.id).toBe(modelId)
    expect(await problem(offerFor(lead, jobId, 'switches', null))).toEqual([409, 'soldAlready'])
  })

  test('signed while the crew writes to the same job and the store moves parts: nobody stands in the other’s way', async () => {
    const lead = await company()
    const { token, jobId } = await offered(lead, 'switches', null)
    const { content } = await readOffer(token)
    const given = { ticks: allTicked(content), totalCents: priceOf(content, allTicked(content)).sum.totalCents, signer: 'C. Test', strokes }
    const { pointOrder } = await readState('job', jobId)
    const wish = { stays: null, noLamps: true, cheapNow: false, colour: null }
    const { branchId } = lead
    const { id: store } = await addPlace(lead, { branchId, name: 'Store', kind: 'store' })
    const { id: articleId } = (await listArticles(lead, branchId))[0]!
    const receive = () =>
      moveStock(lead, {
        id: uuid(),
        branchId,
        articleId,
        kind: 'receive',
        fromId: null,
        toId: store,
        quantity: 1,
        note: '',
        inHand: false,
        purchaseId: null,
      })
    const [signed, ...outcomes] = await Promise.all([
      acceptOffer(token, given),
      ...Array.from({ length: 20 }, () => jobCommand(lead, jobId, { type: 'wishPoint', pointId: pointOrder[0]!, wish })),
      ...Array.from({ length: 10 }, receive),
    ])
    expect(signed).toMatchObject({ status: 'accepted' })
    expect(outcomes.filter((one) => 'status' in one && one.status === 'accepted')).toHaveLength(20)
    expect((await readState('job', jobId)).sales).toHaveLength(1)
  })

  test('a newer one replaces it, one that was withdrawn or altered leads nowhere, one too old is not signed', async () => {
    const lead = await company()
    const { token, jobId, number } = await offered(lead, 'switches', null)
    const second = await offerFor(lead, jobId, 'mostComfort', null)
    expect(second.number).not.toBe(number)
    expect(await problem(readOffer(token))).toEqual([404, 'noOffer'])
    const newest = second.link.split('/').at(-1)!
    expect(await problem(readOffer(`${newest.slice(0, -1)}${newest.endsWith('A') ? 'B' : 'A'}`))).toEqual([404, 'noOffer'])
    expect((await readOffer(newest, new Date(Date.now() + 60 * 86_400_000))).expired).toBe(true)
    await database().models.quotes.update({ validUntil: '2020-01-01' }, { where: { id: second.id } })
    const { content } = await readOffer(newest)
    const given = { ticks: allTicked(content), totalCents: priceOf(content, allTicked(content)).sum.totalCents, signer: 'C. Test', strokes }
    expect(await problem(acceptOffer(newest, given))).toEqual([409, 'expired'])
    await withdrawQuote(lead, second.id, 'too dear')
    expect(await problem(readOffer(newest))).toEqual([404, 'noOffer'])
    expect(await problem(acceptOffer(newest, given))).toEqual([404, 'noOffer'])
    expect(await problem(withdrawQuote(lead, second.id, ''))).toEqual([409, 'notOpen'])
    expect((await listQuotes(lead, jobId)).map(({ status, link }) => [status, link])).toEqual([
      ['withdrawn', null],
      ['replaced', null],
    ])
  })

  test('between the offer and the signature its maker left, a point went off the record and articles off the list: signed is what was shown', async () => {
    const lead = await company()
    const { token, jobId, siteId } = await offered(lead, 'switches', null)
    const { content } = await readOffer(token)
    const { models } = database()
    const { points } = await readState('job', jobId)
    const [gone] = Object.values(points)
    expect(await jobCommand(lead, jobId, { type: 'retirePoint', pointId: gone!.id, reason: 'was a dummy plate' })).toMatchObject({
      status: 'accepted',
    })
    await models.articles.update({ active: false }, { where: { branchId: lead.branchId } })
    await models.people.update({ active: false }, { where: { id: lead.personId } })
    const totalCents = priceOf(content, allTicked(content)).sum.totalCents
    expect(await acceptOffer(token, { ticks: allTicked(content), totalCents, signer: 'C. Test', strokes })).toMatchObject({ totalCents })
    const job = await readState('job', jobId)
    expect(soldTotal(job)).toBe(totalCents)
    const left = soldPoints(job, await readState('site', siteId)).map(({ pointId }) => pointId)
    expect(left).not.toContain(gone!.id)
    expect(soldOffRecord(job)).toEqual([gone!.name])
    expect(left.length).toBe(content.lines.flatMap(({ pointIds }) => pointIds).length - 1)
    await models.people.update({ active: true }, { where: { id: lead.personId } })
    expect(partNeeds(job).length).toBeGreaterThan(0)
    expect((await pickList(lead, jobId)).lines.length).toBe(partNeeds(job).length)
  })

  test('a sale without any device keeps its parts back like any other', async () => {
    const lead = await company()
    const { jobId, token } = await offered(lead, 'lamps', null)
    const { content } = await readOffer(token)
    // As if only lamps had been offered: what has devices stays as it is.
    const lines = content.lines.map((line) => ({ ...line, devices: [] }))
    await database().models.quotes.update({ content: JSON.stringify({ ...content, lines }) }, { where: { jobId } })
    const totalCents = priceOf(content, allTicked(content)).sum.totalCents
    await acceptOffer(token, { ticks: allTicked(content), totalCents, signer: 'C. Test', strokes })
    const needs = partNeeds(await readState('job', jobId))
    expect(needs.length).toBeGreaterThan(0)
    expect(await database().models.partNeeds.count({ where: { jobId } })).toBe(needs.length)
  })

  test('declined with a reason, once; nothing is sold by it', async () => {
    const lead = await company()
    const { token, jobId } = await offered(lead)
    expect(await declineOffer(token, 'not this year')).toEqual({ status: 'declined' })
    expect(await declineOffer(token, 'again')).toEqual({ status: 'declined' })
    expect((await listQuotes(lead, jobId))[0]).toMatchObject({ status: 'declined', reason: 'not this year' })
    expect((await readState('job', jobId)).sales).toEqual([])
    const { content } = await readOffer(token)
    const given = { ticks: allTicked(content), totalCents: 0, signer: 'C. Test', strokes }
    expect(await problem(acceptOffer(token, given))).toEqual([409, 'notOpen'])
  })

  test('prices that change meanwhile change no offer that is out; a plan of yesterday is not offered', async () => {
    const lead = await company()
    const { token, jobId } = await offered(lead)
    const before = await readOffer(token)
    const list = await listArticles(lead, lead.branchId)
    for (const { id, active: _a, branchId: _b, ...article } of list.filter(({ kind }) => kind === 'device').slice(0, 12))
      await changeArticle(lead, id, { article: { ...article, priceCents: null } })
    expect((await readOffer(token)).content).toEqual(before.content)
    expect(await problem(makeQuote(lead, jobId, { chosen: ['withNeutral:gone'], optional: null, discountBasisPoints: 0 }))).toEqual([
      409,
      'planOutOfDate',
    ])
  })

  test('as a paper, and for the books: lines, taxes and total are those that were signed', async () => {
    const lead = await company()
    const { token, id } = await offered(lead)
    expect((await quotePaper(id)).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(await problem(invoiceOf(lead, id))).toEqual([409, 'notSigned'])
    const { content } = await readOffer(token)
    const totalCents = priceOf(content, allTicked(content)).sum.totalCents
    await acceptOffer(token, { ticks: allTicked(content), totalCents, signer: '=cmd|calc', strokes })
    const invoice = invoiceSchema.parse(await invoiceOf(lead, id))
    expect(invoice.lines.reduce((sum, line) => sum + line.netCents, 0)).toBe(invoice.netCents)
    expect(invoice.netCents + invoice.taxes.reduce((sum, tax) => sum + tax.cents, 0) + invoice.roundingCents).toBe(totalCents)
    expect(invoice.depositCents + invoice.restCents).toBe(totalCents)
    const csv = invoiceCsv(invoice).split('\n')
    expect(csv[0]).toBe('\ufeffnumber,kind,text,quantity,amount,tax')
    expect(csv.find((line) => line.includes(',total,'))).toContain(String(totalCents / 100))
    expect((await quotePaper(id)).bytes.length).toBeGreaterThan(5000)
  })

  test('another company gets none of it', async () => {
    const lead = await company()
    const { jobId, id } = await offered(lead)
    const rival = await company()
    expect(await problem(listQuotes(rival, jobId))).toEqual([404, 'notFound'])
    expect(await problem(withdrawQuote(rival, id, ''))).toEqual([404, 'notFound'])
    expect(await problem(invoiceOf(rival, id))).toEqual([404, 'notFound'])
    expect(await problem(listArticles(rival, lead.branchId))).toEqual([404, 'notFound'])
  })

  test('what was sold follows from a signature alone: nobody gives it by hand', async () => {
    const lead = await company()
    const { jobId } = await open(lead)
    const sale = {
      type: 'sellPlan',
      saleId: jobId,
      kind: 'quote',
      number: '1',
      signer: 'x',
      currency: 'USD',
      totalCents: 1,
      solutions: [],
      parts: [],
    }
    expect(await problem(jobCommand(lead, jobId, sale as never))).toEqual([403, 'notByHand'])
  })
})

describe('articles', () => {
  test('a list is filled from models and parts without prices; a number or a model is one article’s only', async () => {
    const lead = await company()
    await database().models.articles.destroy({ where: { companyId: lead.companyId } })
    const { added } = await fillArticles(lead, lead.branchId)
    const list = await listArticles(lead, lead.branchId)
    expect(list).toHaveLength(added)
    expect(list.every(({ priceCents }) => priceCents === null)).toBe(true)
    expect(await fillArticles(lead, lead.branchId)).toEqual({ added: 0 })
    const hub = {
      kind: 'hub' as const,
      refId: null,
      maker: 'Elm',
      name: 'hub',
      gtin: '6291041500213',
      priceCents: 100,
      bin: false,
      shelf: '',
      supplies: [],
      works: [],
      contents: [],
      lamp: null,
      holds: 5,
      mostWatts: null,
    }
    await addArticle(lead, { branchId: lead.branchId, ...hub })
    expect(await problem(addArticle(lead, { branchId: lead.branchId, ...hub, name: 'other' }))).toEqual([409, 'articleTwice'])
    await addArticle(lead, { branchId: lead.branchId, ...hub, gtin: '' })
    await addArticle(lead, { branchId: lead.branchId, ...hub, gtin: '' })
  })
  test('the record of a model counts what the model caused', async () => {
    const { lead } = await makeCompany()
    expect(await modelRecord(lead)).toEqual({})
  })
})

describe('a change on site', () => {
  async function sold() {
    const lead = await company()
    const { token, jobId } = await offered(lead, 'switches', null)
    const { content } = await readOffer(token)
    const totalCents = priceOf(content, allTicked(content)).sum.totalCents
    await acceptOffer(token, { ticks: allTicked(content), totalCents, signer: 'C. Test', strokes })
    const { problem: all } = waysOf(await planSource(lead, jobId))
    const agreed = (await readAgreed(lead, jobId)).agreed!
    const [line] = agreed.lines.filter(({ kind, pointIds }) => kind !== 'leave' && pointIds.length === 1)
    const others = all.solutions.filter((one) => one.pointIds.join() === line!.pointIds.join() && one.id !== line!.id)
    return { lead, jobId, totalCents, agreed, line: line!, others }
  }

  test('another kind of solution adds or takes off what it costs, to the cent; devices, needs and papers follow its signature', async () => {
    const { lead, jobId, totalCents, agreed, line, others } = await sold()
    const other = others.find(({ kind }) => kind === 'smartLamps') ?? others.find(({ kind }) => kind !== line.kind)!
    const change = await makeChange(lead, jobId, { solutions: [other.id], reason: 'no neutral after all' })
    expect(change.status).toBe('open')
    expect(change.number).toMatch(/-C1$/)
    expect(await problem(signChange(lead, change.id, { totalCents: change.totalCents + 1, signer: 'C. Test', strokes }))).toEqual([
      409,
      'sumDiffers',
    ])
    expect(await problem(signChange(lead, change.id, { totalCents: change.totalCents, signer: 'C. Test', strokes: [[[0, 0]]] }))).toEqual([
      422,
      'noSignature',
    ])
    const given = { totalCents: change.totalCents, signer: 'C. Test', strokes }
    const both = await Promise.all([signChange(lead, change.id, given), signChange(lead, change.id, given)])
    expect(both[0]).toEqual(both[1])
    const job = await readState('job', jobId)
    expect(soldTotal(job)).toBe(totalCents + change.totalCents)
    const after = (await readAgreed(lead, jobId)).agreed!
    expect(priceOf(after, allTicked(after)).sum.totalCents).toBe(soldTotal(job))
    // What the job needs now is what is agreed now, part by part.
    const needed = Object.fromEntries(partNeeds(job).map(({ articleId, sold: many }) => [articleId, many]))
    expect(Object.fromEntries(Object.entries(needed).filter(([, many]) => many))).toEqual(
      Object.fromEntries(priceOf(after, allTicked(after)).parts.map(({ articleId, quantity }) => [articleId, quantity])),
    )
    for (const { boxId, gang } of line.devices)
      if (!other.devices.some((one) => one.boxId === boxId && one.gang === gang)) expect(job.boxes[boxId]!.devices[gang]).toBeUndefined()
    const invoice = invoiceSchema.parse(await invoiceOf(lead, change.id))
    expect([invoice.totalCents, invoice.depositCents]).toEqual([change.totalCents, 0])
    expect(invoice.lines.reduce((sum, one) => sum + one.netCents, 0)).toBe(invoice.netCents)
    expect((await quotePaper(change.id)).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect(agreed.lines).toHaveLength(after.lines.length)
    // And back again: the two changes together come to nothing.
    const back = await makeChange(lead, jobId, { solutions: [line.id], reason: 'there is one, behind the neighbour' })
    expect(back.totalCents).toBe(-change.totalCents)
    await signChange(lead, back.id, { ...given, totalCents: back.totalCents })
    expect(soldTotal(await readState('job', jobId))).toBe(totalCents)
  })

  test('a newer change replaces one that waits; what is agreed already is none; strangers and technicians off the visit make none', async () => {
    const { lead, jobId, line, others } = await sold()
    const first = await makeChange(lead, jobId, { solutions: [others[0]!.id], reason: 'as found' })
    const second = await makeChange(lead, jobId, { solutions: [others[1]!.id], reason: 'as found' })
    if (first.status === 'open')
      expect(await problem(signChange(lead, first.id, { totalCents: first.totalCents, signer: 'C. Test', strokes }))).toEqual([
        409,
        'notOpen',
      ])
    void second
    expect(await problem(makeChange(lead, jobId, { solutions: ['withNeutral:gone'], reason: 'as found' }))).toEqual([409, 'planOutOfDate'])
    const rival = await company()
    expect(await problem(makeChange(rival, jobId, { solutions: [line.id], reason: 'as found' }))).toEqual([404, 'notFound'])
    const { lead: fresh } = { lead: await company() }
    const { jobId: unsold } = await open(fresh)
    const { problem: all } = waysOf(await planSource(fresh, unsold))
    expect(await problem(makeChange(fresh, unsold, { solutions: [all.solutions[0]!.id], reason: 'as found' }))).toEqual([
      409,
      'nothingSold',
    ])
  })

  test('without a new price and under the branch’s minutes a note settles it', async () => {
    const { lead, jobId, agreed, line, others } = await sold()
    // The same model in the other place of the list: another article at the same price.
    const list = await listArticles(lead, lead.branchId)
    const twin = others.find(({ kind, parts }) => kind === line.kind && parts.length === line.parts.length)
    if (!twin) return
    const price = list.find(({ id }) => id === line.parts[0]!.articleId)!.priceCents
    const { id, active: _a, branchId: _b, ...article } = list.find((one) => one.id === twin.parts[0]!.articleId)!
    await changeArticle(lead, id, { article: { ...article, priceCents: price } })
    const { problem: all } = waysOf(await planSource(lead, jobId))
    const same = all.solutions.find((one) => one.id === twin.id && one.minutes === line.minutes && !Object.keys(one.onHub).length)
    if (!same) return
    const change = await makeChange(lead, jobId, { solutions: [same.id], reason: 'the other one was on the van' })
    expect(change).toMatchObject({ status: 'accepted', totalCents: 0 })
    expect((await readState('job', jobId)).sales.at(-1)).toMatchObject({ kind: 'change', signer: 'Lea Lead, by a note' })
    expect(agreed.lines.length).toBeGreaterThan(0)
  })
})
