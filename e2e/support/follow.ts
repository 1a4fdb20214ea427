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
      await this.settle()
      if (await goal()) return
      const before = await this.look()
      if (!(await this.turn())) {
        // What somebody else said may arrive in the middle of a look.
        await this.page.waitForTimeout(300)
        continue
      }
      await expect.poll(() => this.look(), { message: `after “${this.path.at(-1)}” nothing new: ${before}` }).not.toBe(before)
    }
    throw new Error(`Not there after ${most} steps: ${await this.look()}\n${this.path.join('\n')}`)
  }
  /** Nothing is on its way, and nothing is being computed. */
  private async settle(): Promise<void> {
    await expect(this.dock()).toBeVisible()
    await expect(this.page.getByText('Computing …')).toBeHidden()
    await expect(this.dock().locator('[aria-busy="true"], .animate-spin')).toHaveCount(0)
  }
  private async look(): Promise<string> {
    const values = await this.dock()
      .locator('input')
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value).join())
    return `${this.page.url()} ${(await this.dock().textContent())?.replace(/\s+/g, ' ')} ${values} ${this.readings}`
  }

  /** Does what is next; false: there is nothing to press. */
  private async turn(): Promise<boolean> {
    const dock = this.dock()
    if (await dock.getByTestId('proof-stage').isVisible()) return this.prove()
    if (await dock.getByTestId('next-test').isVisible()) return this.read()
    const usual = dock.getByTestId('usual')
    if (await usual.isVisible()) return this.tap(dock.getByRole('button', { name: 'This is how it was' }))
    const found = dock.getByRole('button', { name: 'This is how it was' })
    if (await found.isVisible()) {
      for (const [letter, place] of Object.entries(this.box()!.world.terminals ?? {})) {
        await this.tap(this.page.getByTestId(`tag-${letter}`))
        await this.tap(this.page.getByRole('button', { name: new RegExp(`^Terminal ${place.replace(/[()]/g, '.')}`) }))
      }
      return this.tap(found)
    }
    const cables = dock.getByRole('group', { name: 'Add a cable' })
    if (await cables.isVisible()) {
      for (const shape of this.box()!.world.cables) await this.tap(cables.getByRole('button', { name: shape, exact: true }))
      return this.tap(dock.getByRole('button', { name: /^Store \d+ conductors$/ }))
    }
    if (
      await dock
        .getByRole('button', { name: /^Choose / })
        .first()
        .isVisible()
    ) {
      const [unit] = this.units
      return this.tap(dock.getByRole('button', { name: `Choose ${unit!.model}`, exact: true }))
    }
    const serial = dock.getByLabel('Serial')
    const inBag = dock.getByRole('button', { name: 'It is this one' })
    if (await inBag.isVisible()) {
      await this.tap(inBag)
      return this.tap(dock.getByRole('button', { name: /^Store serial/ }))
    }
    if (await serial.isVisible()) {
      const unit = this.units.shift()!
      await serial.fill(unit.serial)
      const code = dock.getByLabel(/^Setup code/)
      if (await code.isVisible()) await code.fill(unit.code)
      return this.tap(dock.getByRole('button', { name: /^Store serial/ }))
    }
    const shot = dock.getByLabel('Picture before closing')
    if (await shot.count()) {
      this.path.push('Picture before closing')
      this.taps += 2
      await shot.setInputFiles(picture)
      await expect(shot).toHaveCount(0)
      return true
    }
    const lock = dock.getByLabel('Your lock')
    if ((await lock.isVisible()) && !(await lock.inputValue())) await lock.fill(`${this.locks} ${++this.lock}`)
    // What somebody of the crew waits for comes before one’s own work.
    for (const name of [/^Ask to close/, /^It is closed$/, /^I have arrived$/, /^It does$/]) {
      const button = dock.getByRole('button', { name }).first()
      if (await button.isVisible()) return this.tap(button)
    }
    const act = dock.locator('.act:visible').first()
    // A button that cannot be pressed yet is looked at again: the page may have gone on since the last look.
    if (await act.isVisible()) return (await act.isEnabled()) && this.tap(act)
    const way = dock.getByRole('link', { name: /^Go to|^To the/ }).first()
    if (await way.isVisible()) return this.tap(way)
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
