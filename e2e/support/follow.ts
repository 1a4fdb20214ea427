import { expect, type Locator, type Page } from '@playwright/test'
import { asFoundBoxOf, wiringOf, type JobState } from '../../core/job'
import type { SiteState } from '../../core/site'
import { nextTest, type WireTest } from '../../core/wiring'
import type { BoxMeter } from '../../core/wiring/simulated-meter'
import { Hand } from './hand'
import { ask } from './people'

/** A truly wired box, as the hand of the journey finds it. */
export interface TrueBox {
  /** Cables as they come in, by the name of their shape. */
  cables: string[]
  /** Answers what the bench asks for; none where only its proof is read. */
  meter?: BoxMeter
  /** The box’s breakers as the meter’s world names them. */
  circuits?: Record<string, string>
  /** What is on the old switch’s terminals, where that has to be looked at. */
  terminals?: Record<string, string>
}
interface Unit {
  model: string
  serial: string
  code: string
}
const picture = {
  name: 'box.png',
  mimeType: 'image/png',
  buffer: Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64'),
}

/** What stands in the next step, seen at one glance: a look by look is as slow as a person with one eye. */
interface Glance {
  busy: boolean
  said: string
  /** Test ids and names of groups; `picture` where one is taken. */
  parts: string[]
  buttons: string[]
  links: string[]
  fields: { label: string; value: string }[]
  /** Whether a large button stands there. */
  acts: boolean
}
/** In the page. */
function glance(): Glance | null {
  const dock = document.querySelector('[data-testid="next-step"]')
  if (!dock) return null
  const visible = (one: Element) => one.checkVisibility({ visibilityProperty: true }) && one.getBoundingClientRect().height > 0
  const all = (selector: string) => [...dock.querySelectorAll<HTMLElement>(selector)].filter(visible)
  const tidy = (text: string | null | undefined) => (text ?? '').trim().replace(/\s+/g, ' ')
  const name = (one: HTMLElement) => tidy(one.getAttribute('aria-label') ?? one.textContent)
  const inputs = all('input:not([type="file"])') as HTMLInputElement[]
  const computing = [...document.querySelectorAll<HTMLElement>('p, span, div')].some(
    (one) => one.childElementCount === 0 && one.textContent?.includes('Computing …') && visible(one),
  )
  return {
    busy: !visible(dock) || computing || Boolean(dock.querySelector('[aria-busy="true"], .animate-spin')),
    said: `${tidy(dock.textContent)} ${[...dock.querySelectorAll('input')].map((one) => one.value).join()}`,
    parts: [
      ...all('[data-testid]').map((one) => one.dataset.testid!),
      ...all('[role="group"][aria-label]').map((one) => one.getAttribute('aria-label')!),
      ...([...dock.querySelectorAll<HTMLInputElement>('input[type="file"]')].some((one) =>
        /Picture before closing/.test(`${one.ariaLabel ?? ''}${one.labels?.[0]?.textContent ?? ''}`),
      )
        ? ['picture']
        : []),
    ],
    buttons: all('button').map(name),
    links: all('a').map(name),
    fields: inputs.map((one) => ({
      label: tidy(one.getAttribute('aria-label') ?? [...(one.labels ?? [])].map((label) => label.textContent).join(' ')),
      value: one.value,
    })),
    acts: all('.act').length > 0,
  }
}

/**
 * Somebody who does what the next step says, with a meter that types its readings. Every touch of the screen is counted; what the
 * meter types, a lock, a serial and a code are not.
 */
export class Follower extends Hand {
  readings = 0
  private readonly units: Unit[]
  private lock = 0
  constructor(
    page: Page,
    private readonly jobId: string,
    private readonly boxes: Record<string, TrueBox>,
    units: Unit[],
    private readonly locks = 'BA red',
  ) {
    super(page)
    this.units = [...units]
  }
  readonly dock = (): Locator => this.page.getByTestId('next-step')

  private async type(value: string): Promise<void> {
    this.readings++
    await this.page.keyboard.type(value)
    await this.page.keyboard.press('Enter')
  }
  private box(): { name: string; world: TrueBox; id: string } | null {
    const id = /\/(?:box|wiring)\/([0-9a-f-]{36})/.exec(this.page.url())?.[1]
    const name = id ? this.names[id] : undefined
    return id && name ? { id, name, world: this.boxes[name]! } : null
  }
  private names: Record<string, string> = {}

  /** Follows until this can be seen; says how the next step looked when it goes nowhere. */
  async until(goal: () => Promise<boolean>, most = 400): Promise<void> {
    const { siteState } = await ask<{ siteState: SiteState }>(this.page, `/api/jobs/${this.jobId}`)
    this.names = Object.fromEntries(Object.values(siteState.boxes).map(({ id, name }) => [id, name]))
    for (let turn = 0; turn < most; turn++) {
      const seen = await this.settle()
      if (await goal()) return
      const before = this.said(seen)
      if (!(await this.turn(seen))) {
        // What somebody else said may arrive in the middle of a look.
        await this.page.waitForTimeout(300)
        continue
      }
      await expect.poll(() => this.look(), { message: `after “${this.path.at(-1)}” nothing new: ${before}` }).not.toBe(before)
    }
    throw new Error(`Not there after ${most} steps: ${await this.look()}\n${this.path.join('\n')}`)
  }
  /** Nothing is on its way, and nothing is being computed: what the page says then. */
  private async settle(): Promise<Glance> {
    let seen: Glance | null = null
    await expect
      .poll(async () => {
        seen = await this.page.evaluate(glance)
        return seen && !seen.busy
      })
      .toBe(true)
    return seen!
  }
  private async look(): Promise<string> {
    return this.said(await this.page.evaluate(glance))
  }
  private said = (seen: Glance | null): string => `${this.page.url()} ${seen?.said} ${this.readings}`

  /** Does what is next; false: there is nothing to press. */
  private async turn({ parts, buttons, fields, links, acts }: Glance): Promise<boolean> {
    const dock = this.dock()
    const shows = (name: string | RegExp) => buttons.some((one) => (typeof name === 'string' ? one === name : name.test(one)))
    if (parts.includes('proof-stage')) return this.prove()
    if (parts.includes('next-test')) return this.read()
    const usual = parts.includes('usual')
    if (usual || shows('This is how it was')) {
      for (const [letter, place] of usual ? [] : Object.entries(this.box()!.world.terminals ?? {})) {
        await this.tap(this.page.getByTestId(`tag-${letter}`))
        await this.tap(this.page.getByRole('button', { name: new RegExp(`^Terminal ${place.replace(/[()]/g, '.')}`) }))
      }
      return this.tap(dock.getByRole('button', { name: 'This is how it was' }))
    }
    if (parts.includes('Add a cable')) {
      const cables = dock.getByRole('group', { name: 'Add a cable' })
      for (const shape of this.box()!.world.cables) await this.tap(cables.getByRole('button', { name: shape, exact: true }))
      return this.tap(dock.getByRole('button', { name: /^Store \d+ conductors$/ }))
    }
    if (shows(/^Choose /)) {
      const [unit] = this.units
      return this.tap(dock.getByRole('button', { name: `Choose ${unit!.model}`, exact: true }))
    }
    const named = (label: RegExp) => fields.find((one) => label.test(one.label))
    if (shows('It is this one')) {
      await this.tap(dock.getByRole('button', { name: 'It is this one' }))
      return this.tap(dock.getByRole('button', { name: /^Store serial/ }))
    }
    if (named(/^Serial/)) {
      const unit = this.units.shift()!
      await dock.getByLabel('Serial').fill(unit.serial)
      const code = dock.getByLabel(/^Setup code/)
      if (await code.isVisible()) await code.fill(unit.code)
      return this.tap(dock.getByRole('button', { name: /^Store serial/ }))
    }
    const shot = dock.getByLabel('Picture before closing')
    if (parts.includes('picture')) {
      this.path.push('Picture before closing')
      this.taps += 2
      await shot.setInputFiles(picture)
      await expect(shot).toHaveCount(0)
      return true
    }
    if (named(/^Your lock/)?.value === '') await dock.getByLabel('Your lock').fill(`${this.locks} ${++this.lock}`)
    // What somebody of the crew waits for comes before one’s own work.
    for (const name of [/^Ask to close/, /^It is closed$/, /^I have arrived$/, /^It does$/])
      if (shows(name)) return this.tap(dock.getByRole('button', { name }).first())
    // A button that cannot be pressed yet is looked at again: the page may have gone on since the last look.
    if (acts) {
      const act = dock.locator('.act:visible').first()
      return (await act.isEnabled()) && this.tap(act)
    }
    if (links.some((one) => /^Go to|^To the/.test(one))) return this.tap(dock.getByRole('link', { name: /^Go to|^To the/ }).first())
    return false
  }

  /** The proof, in whatever stage it is: the meter is linked at the first chance. */
  private async prove(): Promise<true> {
    const dock = this.dock()
    const linked = dock.getByRole('checkbox', { name: 'My meter types its readings here' })
    if ((await linked.isVisible()) && !(await linked.isChecked())) await this.tap(linked)
    const label = (await dock.locator('label.entry b').first().textContent())!
    const shows = /^It shows/.test(label)
      ? '238'
      : /^Line to neutral/.test(label)
        ? '121'
        : /to that line/.test(label)
          ? '120.4'
          : /to that neutral/.test(label)
            ? '0.5'
            : /Ω|main earth bar/.test(label)
              ? '0.6'
              : /leads alone/.test(label)
                ? '0.3'
                : '0.2'
    this.path.push(`meter: ${label} ${shows}`)
    await this.type(shows)
    return true
  }

  /** The readings the bench asks for, as the truly wired box gives them. */
  private async read(): Promise<boolean> {
    const { id, world } = this.box()!
    const { jobState, siteState } = await ask<{ jobState: JobState; siteState: SiteState }>(this.page, `/api/jobs/${this.jobId}`)
    const { notes, readings } = wiringOf(jobState, id)
    const found = asFoundBoxOf(siteState, siteState.boxes[id]!, notes!)
    if (!found.ok) throw new Error(found.reason)
    const on = siteState.boxes[id]!.breakerIds.some((one) => siteState.breakers[one]!.state === 'closed')
    const advice = nextTest(found.found, readings, on)
    const rows = this.dock().getByTestId('next-test').locator('.entry')
    // The page is still at the answer before.
    if (advice.done || (await rows.count()) !== advice.next.tests.length) return false
    const [first] = advice.next.tests
    this.path.push(
      `meter: ${advice.next.tests.length} with ${first!.closed.join('+') || 'nothing'} on${first!.old ? `, old ${first!.old.join()}` : ''} ${first!.far.join()}`,
    )
    for (const [index, test] of advice.next.tests.entries()) {
      const value = world.meter!.read(this.inWorld(test, world)).value
      if (test.kind === 'contactless') await this.tap(rows.nth(index).getByRole('button', { name: value ? 'lit' : 'dark' }))
      else await this.type(test.kind === 'continuity' && value > 1e6 ? 'OL' : value.toFixed(1))
    }
    const store = this.dock().getByRole('button', { name: /^Store (the reading|\d+ readings)$/ })
    if (advice.next.tests.some((test) => test.kind === 'contactless')) await this.tap(store)
    return true
  }
  private inWorld(test: WireTest, world: TrueBox): WireTest {
    return { ...test, closed: test.closed.map((circuit) => world.circuits?.[circuit] ?? circuit) }
  }
}
