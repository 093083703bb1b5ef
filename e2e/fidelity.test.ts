/** Drawings look on the stage and from `rig render` as Chromium itself shows them. */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { demoSvg } from '@marionette/demo/demos'
import { difference, PIXEL_TOLERANCE, readPicture, type Picture } from './compare'
import { CORPUS } from './corpus'
import { freeDrawings } from './drawings'
import { dropFiles, Editor } from './editor'
import { renderSvg, showInChromium, type Shown } from './pictures'
import { startSession, type Session } from './session'

const DRAWINGS = Object.entries({ Marlo: demoSvg(), ...CORPUS })

/** What is looked at on the stage as well, and through the command line. */
const CHOSEN = ['Marlo', 'path commands', 'transforms', 'patterns', 'masks', 'pictures', 'shadows'].map((name) =>
  DRAWINGS.find(([known]) => known === name)!,
)

let session: Session
let page: Page
let folder: string

beforeAll(async () => {
  session = await startSession()
  page = session.page
  folder = mkdtempSync(join(tmpdir(), 'marionette-fidelity-'))
  const files = CHOSEN.map(([name, svg]) => {
    const path = join(folder, `${name}.svg`)
    writeFileSync(path, svg)
    return path
  })
  const root = fileURLToPath(new URL('..', import.meta.url))
  execFileSync(process.execPath, ['server/dist/rig.mjs', 'render', ...files, '--out', `${folder}/out/`, '--background', 'white'], {
    cwd: root,
  })
})

afterAll(async () => {
  await session?.stop()
  rmSync(folder, { recursive: true, force: true })
})

/** What Chromium shows of an SVG that stands at a place of a white page. */
async function shownByChromium(
  svg: string,
  clip: { x: number; y: number; width: number; height: number },
  place: { x: number; y: number; scale: number },
): Promise<Picture> {
  const other = await session.browser.newPage()
  await other.setViewport({ width: 1280, height: 900 })
  const url = `data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`
  await other.setContent(
    `<body style="margin:0;background:#fff"><img src="${url}" style="position:absolute;left:0;top:0;transform-origin:0 0;transform:translate(${place.x}px,${place.y}px) scale(${place.scale})"></body>`,
  )
  await other.waitForFunction(() => document.querySelector('img')!.complete)
  const bytes = await other.screenshot({ clip })
  await other.close()
  return readPicture(bytes)
}

describe('rig render', () => {
  test.each(CHOSEN)('%s', async (name, svg) => {
    const ours = readPicture(readFileSync(join(folder, 'out', `${name}.png`)))
    const theirs = await shownByChromium(
      svg,
      { x: 0, y: 0, width: ours.width, height: Math.min(900, ours.height) },
      { x: 0, y: 0, scale: 1 },
    )
    const cropped = { ...ours, height: theirs.height }
    expect(difference(cropped, theirs)).toBeLessThan(PIXEL_TOLERANCE)
  })
})

describe('the stage', () => {
  test.each(CHOSEN)('%s', async (name, svg) => {
    const editor = new Editor(page, session.server.url)
    const made = await fetch(`${session.server.url}/api/puppets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"name":"x"}',
    })
    await editor.open(((await made.json()) as { id: string }).id)
    await dropFiles(page, [{ name: `${name}.svg`, text: svg }])
    await editor.saved()
    await page.waitForSelector('[role=treeitem]')
    // Only the artwork stays, on white; nothing that floats over it.
    await page.addStyleTag({
      content:
        '[data-testid=stage-view]{background:#fff!important;border-radius:0!important}[data-testid=stage-view]>:not([data-testid=art]){visibility:hidden!important}',
    })
    // The camera and the panels around may still be settling after the import.
    const isOff = async (): Promise<number> => {
      await editor.sharp()
      const stage = (await (await page.$('[data-testid=stage-view]'))!.boundingBox())!
      const zero = await editor.at({ x: 0, y: 0 })
      const one = await editor.at({ x: 1, y: 0 })
      const ours = readPicture(await page.screenshot({ clip: stage }))
      const theirs = await shownByChromium(svg, stage, { x: zero.x, y: zero.y, scale: one.x - zero.x })
      return difference(ours, theirs)
    }
    await expect.poll(isOff, { timeout: 20_000 }).toBeLessThan(PIXEL_TOLERANCE)
  })
})

const SIZE = 192

describe('what the importer promises', () => {
  let theirs: Shown[]
  beforeAll(async () => {
    theirs = await showInChromium(
      session.browser,
      DRAWINGS.map(([, svg]) => svg),
      SIZE,
    )
  })
  test.each(DRAWINGS.map(([name, svg], i) => [name, svg, i] as const))('%s', async (_, svg, i) => {
    const { picture } = await renderSvg(svg, SIZE)
    expect(difference(picture, theirs[i]!.picture)).toBeLessThan(PIXEL_TOLERANCE)
  })
})

test('of free drawings at least 97 in 100 differ in less than 1% of pixels', async () => {
  const drawings = freeDrawings(120)
  const theirs = await showInChromium(
    session.browser,
    drawings.map(([, svg]) => svg),
    SIZE,
  )
  const far: string[] = []
  for (const [i, [name, svg]] of drawings.entries()) {
    const { picture } = await renderSvg(svg, SIZE)
    const share = difference(picture, theirs[i]!.picture)
    if (share >= 0.01) far.push(`${name} ${(share * 100).toFixed(1)}%`)
  }
  expect(far.length / drawings.length, far.join(', ')).toBeLessThanOrEqual(0.03)
})
