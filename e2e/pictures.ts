/** Many drawings at once as Chromium shows them, and as we do. */
import { encode } from 'fast-png'
import type { BrowserContext } from 'puppeteer-core'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { foldImport, importSvg } from '@marionette/formats/svg/import'
import type { Warning } from '@marionette/formats/warnings'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import { readPicture, type Picture } from './compare'

export interface Shown {
  readonly picture: Picture
  readonly bytes: Uint8Array
}

/** An SVG with a given size on its outermost element, so that both sides show it alike. */
const sized = (svg: string, size: number): string =>
  svg.replace(
    /<svg\b([^>]*)>/,
    (_, attributes: string) =>
      `<svg${attributes.replace(/\s(width|height)\s*=\s*("[^"]*"|'[^']*')/g, '')} width="${size}" height="${size}">`,
  )

/** Our picture of a drawing in a square of some pixels, on white. */
export async function renderSvg(svg: string, size: number): Promise<Shown & { warnings: readonly Warning[] }> {
  const { puppet, nesting, warnings, assets } = importSvg(sized(svg, size), 'drawing')
  const frame = poseRig(compile(foldImport(puppet, nesting)))
  const bytes = renderPng(await loadCanvasKit(), frame, { width: size, background: '#ffffff', assets: (hash) => assets.get(hash) })
  return { picture: readPicture(bytes), bytes, warnings }
}

const COLUMNS = 6
const ROWS = 4

/** Chromium's pictures of drawings, each in a square of some pixels on white; a sheet of them is taken at a time. */
export async function showInChromium(browser: BrowserContext, drawings: readonly string[], size: number): Promise<Shown[]> {
  const out: Shown[] = []
  const page = await browser.newPage()
  await page.setViewport({ width: COLUMNS * size, height: ROWS * size })
  for (let from = 0; from < drawings.length; from += COLUMNS * ROWS) {
    const some = drawings.slice(from, from + COLUMNS * ROWS)
    const images = some.map((svg, i) => {
      const url = `data:image/svg+xml;base64,${Buffer.from(sized(svg, size)).toString('base64')}`
      return `<img src="${url}" style="position:absolute;left:${(i % COLUMNS) * size}px;top:${Math.floor(i / COLUMNS) * size}px;width:${size}px;height:${size}px">`
    })
    await page.setContent(`<body style="margin:0;background:#fff">${images.join('')}</body>`)
    await page.waitForFunction(() => [...document.images].every((image) => image.complete))
    const sheet = readPicture(await page.screenshot())
    some.forEach((_, i) => {
      const picture = crop(sheet, (i % COLUMNS) * size, Math.floor(i / COLUMNS) * size, size)
      out.push({ picture, bytes: encode({ ...picture, data: Uint8Array.from(picture.data), depth: 8 }) })
    })
  }
  await page.close()
  return out
}

function crop({ width, data, channels }: Picture, left: number, top: number, size: number): Picture {
  const out = new Uint8Array(size * size * channels)
  for (let y = 0; y < size; y++)
    for (let k = 0; k < size * channels; k++) out[y * size * channels + k] = data[((top + y) * width + left) * channels + k]!
  return { width: size, height: size, data: out, channels }
}
