import type { Locator, Page } from '@playwright/test'
import { pick } from './people'

/** A hand at a screen: every touch is counted. To write in a field it has to be touched once; letters are not counted. */
export class Hand {
  taps = 0
  readonly path: string[] = []
  constructor(readonly page: Page) {}
  async tap(what: Locator): Promise<true> {
    this.path.push(((await what.getAttribute('aria-label')) ?? (await what.textContent()) ?? '').trim().replace(/\s+/g, ' '))
    await what.click()
    this.taps++
    return true
  }
  press = (name: string | RegExp): Promise<true> => this.tap(this.page.getByRole('button', { name }))
  async write(label: string | RegExp, text: string): Promise<void> {
    this.path.push(`write ${label}`)
    await this.page.getByLabel(label, typeof label === 'string' ? { exact: true } : {}).fill(text)
    this.taps++
  }
  /** An entry of a list: the list is opened, and the entry touched. */
  async choose(label: string | RegExp, option: string | RegExp): Promise<void> {
    this.path.push(`choose ${label}`)
    await pick(this.page, label, option)
    this.taps += 2
  }
}
