/** Ten pictures on one sheet: a strange drawing from the dropped file to the waving puppet. For docs/guide. */
import { writeFileSync } from 'node:fs'
import type { Browser } from 'puppeteer-core'
import { openPage } from './browser'
import { calm } from './calm'
import { Editor } from './editor'
import { ferrymanWaves } from './ferrymanSteps'

const [ACROSS, WIDTH, HEIGHT] = [2, 640, 400]

/** Takes the pictures in a page of its own and lays them out on one sheet. */
export async function filmStrip(browser: Browser, url: string, file: string): Promise<void> {
  const { page } = await openPage(browser)
  const taken: { readonly says: string; readonly picture: string }[] = []
  await page.goto(url)
  await ferrymanWaves(page, new Editor(page, url), async (says) => {
    // What is under the pointer lights up.
    await page.mouse.move(WIDTH, 1)
    await calm(page)
    taken.push({ says, picture: await page.screenshot({ encoding: 'base64' }) })
  })
  const cells = taken.map(
    ({ says, picture }, i) => `<figure><img src="data:image/png;base64,${picture}"><figcaption>${i + 1}. ${says}</figcaption></figure>`,
  )
  await page.setViewport({ width: ACROSS * (WIDTH + 16) + 16, height: 800 })
  await page.setContent(`<style>
    body { margin: 0; padding: 8px; background: #f5f0e4; color: #1e2b2b; font: 15px/20px system-ui; display: grid; grid-template-columns: repeat(${ACROSS}, ${WIDTH}px); gap: 16px }
    figure { margin: 0 } img { width: ${WIDTH}px; height: ${HEIGHT}px; border-radius: 8px; display: block } figcaption { padding: 6px 2px 0 }
  </style>${cells.join('')}`)
  writeFileSync(file, await page.screenshot({ fullPage: true }))
  await page.close()
}
