/** Rehearse as a person uses it: moments on the ruler, the clip as the server has it, and the stage beside what the server renders. */
import { expect } from 'vitest'
import type { Clip } from '@marionette/core/clips/records'
import { momentsOfClip } from '@marionette/core/playing/moments'
import type { Puppet } from '@marionette/core/puppet/schema'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import { difference, PIXEL_TOLERANCE, readPicture } from './compare'
import type { Editor } from './editor'

/** Room beside the first and the last moment of the ruler, px. */
const MARGIN = 28

/** The clip of a name, as the server has it, with its puppet. */
export async function clipNamed(editor: Editor, name: string): Promise<{ puppet: Puppet; clip: Clip }> {
  const puppet = await editor.document()
  return { puppet, clip: puppet.clips.find((c) => c.name === name)! }
}

/** Where a time stands on the page. */
export async function acrossAt(editor: Editor, time: number, length: number): Promise<number> {
  const { x, width } = (await (await editor.page.waitForSelector('canvas[aria-label=Keys]'))!.boundingBox())!
  return x + MARGIN + (time / length) * (width - 2 * MARGIN)
}

/** Looks at a frame by a click on the ruler. */
export async function lookAt(editor: Editor, frame: number, { length, rate }: Pick<Clip, 'length' | 'rate'>): Promise<void> {
  const ruler = (await (await editor.page.waitForSelector('[data-testid=ruler]'))!.boundingBox())!
  await editor.page.mouse.click(await acrossAt(editor, frame / rate, length), ruler.y + 12)
  await editor.page.waitForFunction((f) => document.querySelector('[data-testid=playhead]')?.textContent === f, {}, String(frame))
  await editor.sharp()
}

/** Names of the poses on the line. */
export const poses = (editor: Editor): Promise<string[]> =>
  editor.page.$$eval('[data-pose]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''))

/** How many values are posed and not keyed, in words; null where none are. */
export const unkeyed = (editor: Editor): Promise<string | null> =>
  editor.page.$eval('[data-testid=unkeyed] b', (e) => e.textContent).catch(() => null)

/** Looks at a frame of a clip, and compares the stage with what the server renders of it. */
export async function looksAsRendered(editor: Editor, name: string, frame: number): Promise<void> {
  const { puppet, clip } = await clipNamed(editor, name)
  await lookAt(editor, frame, clip)
  const style = await editor.page.addStyleTag({
    content:
      '[data-testid=stage-view]{background:#fff!important;border-radius:0!important}[data-testid=stage-view]>:not([data-testid=art]){visibility:hidden!important}',
  })
  await editor.sharp()
  const box = (await (await editor.page.$('[data-testid=stage-view]'))!.boundingBox())!
  const [zero, one] = [await editor.at({ x: 0, y: 0 }), await editor.at({ x: 1, y: 1 })]
  const zoom = one.x - zero.x
  // Without another size of the page for the picture: the stage would frame the puppet anew, as it stands now.
  const ours = readPicture(await editor.page.screenshot({ clip: box, captureBeyondViewport: false }))
  const [minX, minY] = [(box.x - zero.x) / zoom, (box.y - zero.y) / zoom]
  const region = { minX, minY, maxX: minX + box.width / zoom, maxY: minY + box.height / zoom }
  const time = frame / clip.rate
  const { frame: posed } = momentsOfClip(puppet, clip)(time)
  const drawn = readPicture(renderPng(await loadCanvasKit(), posed, { width: box.width, background: '#ffffff', region }))
  expect(difference(ours, drawn)).toBeLessThan(PIXEL_TOLERANCE)
  await style.evaluate((e) => e.remove())
}
