/** From a dropped file to a waving puppet: a drawing that the product was not made for, with untidy names, round limbs and a body off the middle. */
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { ElementHandle, Page } from 'puppeteer-core'
import { dropFiles, type Editor } from './editor'

const drawing = readFileSync(fileURLToPath(new URL('./artwork/ferryman.svg', import.meta.url)), 'utf8')

/** Joints whose ends are drawn round already, by the piece on top. */
export const ROUND_JOINTS = ['N_forearm', 'F_forearm', 'N_shin', 'F_shin']

/** Told of each step once it is done, with what it was. */
export type OnStep = (says: string) => Promise<void>

async function openDropped(page: Page, editor: Editor, onStep: OnStep): Promise<void> {
  await page.waitForSelector('main')
  await dropFiles(page, [{ name: 'ferryman.svg', text: drawing }], 'main')
  await page.waitForFunction(() => {
    const picture = document.querySelector<HTMLImageElement>('[aria-label="Open ferryman"] img')
    return picture?.complete && picture.naturalWidth > 0
  })
  await onStep('Drop the file on the library.')
  await (await page.waitForSelector('[aria-label="Open ferryman"]'))!.click()
  await editor.drawn()
  await editor.sharp()
  await onStep('Open it: every layer is a part, with its own name.')
}

async function fit(page: Page, editor: Editor, onStep: OnStep): Promise<void> {
  await editor.key('t')
  await page.waitForSelector('[role=dialog] button::-p-text(Fit person)')
  await onStep('Fit a template: names and places say what each part is.')
  await editor.button('Fit person')
  await page.waitForSelector('[role=dialog] ::-p-text(bones placed)', { timeout: 60_000 })
  await editor.button('Look at it')
  await page.waitForSelector('[role=dialog]', { hidden: true })
  await editor.bench('Bones')
  await editor.sharp()
  await onStep('Bones lie in the limbs, the spine in the middle of the coat.')
}

/** Selects a joint in the details of the puppet by its upper piece. */
async function openJoint(page: Page, over: string): Promise<void> {
  const joint = await page.waitForFunction(
    (name) => [...document.querySelectorAll('aside[aria-label=Details] li button')].find((b) => b.textContent?.startsWith(`${name} on`)),
    {},
    over,
  )
  await (joint as ElementHandle<HTMLElement>).evaluate((e) => e.click())
  await page.waitForSelector('aside[aria-label=Details] button::-p-text(Round the ends)')
}

/** Joins what hangs together and rounds the ends; gives the grade of each joint, as the range test found it. */
async function joinUp(page: Page, editor: Editor, onStep: OnStep): Promise<string[]> {
  const grades: string[] = []
  await editor.bench('Parts')
  await editor.tool('Select')
  await editor.key('Control', 'd')
  await editor.button('Propose joints')
  await page.waitForSelector('aside[aria-label=Details] li ::-p-text(on N_arm up)', { timeout: 60_000 })
  for (const over of ROUND_JOINTS) {
    await openJoint(page, over)
    await (await page.waitForSelector('aside[aria-label=Details] button::-p-text(Round the ends)'))!.click()
    await page.waitForSelector('[data-testid=sweep-counts]', { timeout: 120_000 })
    grades.push(await page.$eval('[data-testid=sweep-verdict]', (e) => (e as HTMLElement).dataset['grade']!))
    if (over === ROUND_JOINTS[0]) await onStep('Round the ends of a joint: the lines inside it go, its range is tested.')
    await editor.key('Control', 'd')
  }
  await onStep('Elbows and knees are of one piece.')
  return grades
}

async function faceUp(page: Page, editor: Editor, onStep: OnStep): Promise<void> {
  await editor.bench('Face')
  await editor.button('Build a mouth')
  await (await page.waitForSelector('[role=dialog] button:not([disabled])::-p-text(Build the mouth)'))!.click()
  await page.waitForSelector('[role=dialog]', { hidden: true })
  await editor.button('Build eyes')
  await (await page.waitForSelector('[role=dialog] button:not([disabled])::-p-text(Build the eyes)'))!.click()
  await page.waitForSelector('[role=dialog]', { hidden: true })
  await page.waitForSelector('[data-control=Gaze], [data-control=Open]')
  await editor.sharp()
  await onStep('Build the mouth and the eyes: sliders for both are there.')
}

/** Drags the slider of the mood to a smile. */
async function smile(page: Page, editor: Editor, onStep: OnStep): Promise<void> {
  const { x, y, width, height } = (await (await page.waitForSelector('[data-control=Mood]'))!.boundingBox())!
  await page.mouse.move(x + width / 2, y + height / 2)
  await page.mouse.down()
  await page.mouse.move(x + width * 0.95, y + height / 2, { steps: 5 })
  await page.mouse.up()
  await editor.sharp()
  await onStep('Drag a slider: he smiles.')
}

/** Takes all the steps; the puppet waves at the end. Gives the grades of ROUND_JOINTS. */
export async function ferrymanWaves(page: Page, editor: Editor, onStep: OnStep): Promise<string[]> {
  await openDropped(page, editor, onStep)
  await fit(page, editor, onStep)
  const grades = await joinUp(page, editor, onStep)
  await faceUp(page, editor, onStep)
  await smile(page, editor, onStep)
  await editor.bench('Parts')
  await (await page.waitForSelector('section[aria-label=Controls] button[aria-expanded=true]'))!.click()
  await editor.tool('Pose')
  await editor.drag({ x: 214, y: 700 }, { x: 150, y: 260 })
  await editor.sharp()
  await onStep('Drag the hand: the arm follows.')
  await editor.drag({ x: 574, y: 700 }, { x: 640, y: 640 })
  await editor.drag({ x: 390, y: 230 }, { x: 415, y: 232 })
  await editor.key('Control', 'd')
  await editor.sharp()
  await onStep('The ferryman waves.')
  return grades
}
