/** Waiting until a page has nothing more to show. */
import type { Page } from 'puppeteer-core'

/** Pictures of rows and stage arrive one after the other: waits until all that are in view are there, and the stage is sharp. */
export async function calm(page: Page): Promise<void> {
  await page.waitForFunction(
    () => {
      const rows = [...document.querySelectorAll('[role=treeitem]')].every(
        (row) => row.querySelector('img, [data-blank]') || row.getBoundingClientRect().top > innerHeight,
      )
      const pictures = [...document.images].every((image) => image.complete)
      const art = document.querySelector<HTMLCanvasElement>('[data-testid=art]')
      const isSharp = !art || (art.dataset['picture'] === 'sharp' && art.width === Math.round(art.clientWidth * devicePixelRatio))
      const isStill = document.getAnimations().every((a) => a.playState !== 'running' || a.effect?.getTiming().iterations === Infinity)
      return rows && pictures && isSharp && isStill
    },
    { polling: 200, timeout: 120_000 },
  )
}
