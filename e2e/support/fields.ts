import type { Page } from '@playwright/test'

/** Types into the parts of a date or time in the order they stand, as a person with a keyboard does. */
export async function writeParts(page: Page, label: string, parts: (string | number)[]): Promise<void> {
  const fields = page.getByRole('group', { name: label, exact: true }).getByRole('spinbutton')
  for (const [index, part] of parts.entries()) {
    await fields.nth(index).click()
    await page.keyboard.type(String(part))
  }
}
/** What stands in the parts of a date or time. */
export const partsOf = (page: Page, label: string): Promise<string[]> =>
  page.getByRole('group', { name: label, exact: true }).getByRole('spinbutton').allInnerTexts()
