import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

const wcag = { type: 'tag' as const, values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] }
const rules = {
  wcag: { runOnly: wcag },
  /** For a page that was looked at in other colours already. */
  contrast: { runOnly: ['color-contrast'] },
  /** What is good practice beside the standard, too. */
  practice: {},
}

/** WCAG 2.1 A and AA. There are no frames, and nobody reads what passed: neither is gone through, which takes half the time. */
export async function accessible(page: Page, by: keyof typeof rules = 'wcag', within?: string): Promise<void> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ ...rules[by], resultTypes: ['violations'], preload: false })
  const { violations } = await (within ? axe.include(within) : axe).analyze()
  expect(
    violations.map(
      (violation) =>
        `${new URL(page.url()).pathname} (${by}): ${violation.id} ${violation.nodes
          .map((node) => `${node.target.join(' ')} ${node.any[0]?.message ?? ''}`)
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([])
}
