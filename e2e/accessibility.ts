/** What axe finds on the page as it stands. */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from 'puppeteer-core'

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Violation {
  readonly id: string
  readonly impact: string | null
  readonly nodes: readonly { readonly html: string; readonly failureSummary?: string }[]
}

/** Serious and critical findings, one line each. */
export async function seriousFindings(page: Page): Promise<string[]> {
  await page.evaluate(source)
  const { violations } = (await page.evaluate('axe.run(document, { resultTypes: ["violations"] })')) as { violations: Violation[] }
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary?.split('\n')[1]?.trim().slice(0, 140) ?? ''}`))
}
