/** A face through the real interface: mouth and eyes built of plain parts, a line spoken, moods, masks by dragging, flipbooks. */
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { decodePng } from '@marionette/formats/pixels'
import type { Editor } from './editor'
import { startSession, type Session } from './session'

const eye = (side: string, x: number): string =>
  `<g id="Eye ${side}"><ellipse id="White ${side}" cx="${x}" cy="150" rx="30" ry="24" fill="#fffdf5"/><circle id="Iris ${side}" cx="${x}" cy="150" r="12" fill="#2b1d1a"/>` +
  `<path id="Lid ${side}" d="M${x - 32} 148 C${x - 30} 118 ${x + 30} 118 ${x + 32} 148 C${x + 22} 126 ${x - 22} 126 ${x - 32} 148Z" fill="#c47a54"/></g>`

/** A face of plain parts: one that the builders can work with, and a group of mouths to be swapped. */
const FACE = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 500"><g id="Head">
<ellipse id="Face" cx="200" cy="210" rx="150" ry="180" fill="#e0a080"/>
${eye('right', 140)}${eye('left', 260)}
<path id="Lips" d="M150 290 C180 304 220 304 250 290 C220 304 180 304 150 290Z" fill="#5b1d20" stroke="#2b1d1a" stroke-width="5"/>
<path id="Tongue" d="M170 300 L230 300 L230 318 L170 318Z" fill="#cb5f57"/>
<path id="Teeth" d="M150 262 L250 262 L250 286 L150 286Z" fill="#fffdf5"/>
</g><g id="Paper mouth">
<path id="Closed" d="M160 420 L240 420 L240 426 L160 426Z" fill="#2b1d1a"/>
<path id="Round oo" d="M180 405 L220 405 L220 445 L180 445Z" fill="#5b1d20"/>
<path id="Open aa" d="M160 400 L240 400 L240 450 L160 450Z" fill="#5b1d20"/>
</g><circle id="Button" cx="200" cy="480" r="10" fill="#336699"/></svg>`

let session: Session
let page: Page
let editor: Editor

beforeAll(async () => {
  session = await startSession()
  ;({ page, editor } = session)
})
afterAll(() => session?.stop())

const partId = (p: Puppet, name: string): string => Object.values(p.parts).find((t) => t.name === name && t.id !== p.root)!.id
const control = (p: Puppet, name: string): string => p.controls.find((c) => c.name === name)!.id
/** Height of what a part shows in a pose. */
function height(p: Puppet, part: string, pose: Record<string, number>): number {
  const box = frameBounds(posePuppet({ ...p, pose }, pose), new Set([partId(p, part)]))!
  return box.maxY - box.minY
}

async function build(what: string): Promise<void> {
  await editor.button(`${what}…`)
  const button = (await page.waitForSelector('[role=dialog] button:not([disabled])::-p-text(Build the)'))!
  await button.click()
  await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
}

describe('a plain face', () => {
  test('gets a mouth and eyes from its parts by their names', async () => {
    await page.goto(session.server.url)
    const input = (await page.waitForSelector('[data-testid=file-input]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(session.file('face.svg', FACE))
    await page.waitForFunction(() => location.pathname.startsWith('/puppet/'), { timeout: 60_000 })
    await editor.drawn()
    await editor.bench('Face')
    await build('Build a mouth')
    await build('Build eyes')
    const puppet = await editor.document()
    expect(puppet.controls.map((c) => c.name)).toEqual(['Open', 'Width', 'Mood', 'Teeth', 'Tongue', 'Gaze', 'Crossing', 'Lids', 'Squint'])
    expect(puppet.parts[partId(puppet, 'Teeth')]!.masks).toEqual([{ shape: partId(puppet, 'Lips'), keep: 'inside', by: 'area' }])
    expect(puppet.parts[partId(puppet, 'Iris left')]!.masks[0]!.shape).toBe(partId(puppet, 'White left'))
    const open = { [`control/${control(puppet, 'Open')}/value`]: 1 }
    expect(height(puppet, 'Lips', open)).toBeGreaterThan(height(puppet, 'Lips', {}) + 25)
    const closed = { [`control/${control(puppet, 'Lids')}/value`]: 1 }
    expect(height(puppet, 'Lid right', closed)).toBeGreaterThan(height(puppet, 'Lid right', {}) + 20)
    expect(puppet.flipbooks[0]).toMatchObject({ name: 'Blink', channel: `control/${control(puppet, 'Lids')}/value` })
  })

  test('speaks a typed line, and leaves the pose as it was', async () => {
    const before = await editor.document()
    const field = (await page.waitForSelector('input[aria-label="Line to speak"]'))!
    await field.click({ count: 3 })
    await field.type('My mop bumped a map')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[aria-label="Stop speaking"]')
    const closings = await page.$$eval('[aria-label="Mouth shapes of the line"] [data-viseme=mbp]', (all) => all.length)
    expect(closings).toBeGreaterThanOrEqual(5)
    await page.waitForSelector('[aria-label="Speak"]', { timeout: 15_000 })
    expect((await editor.document()).pose).toEqual(before.pose)
  })

  test('speaks a recording, which can be cancelled and put away', async () => {
    const before = await editor.document()
    const input = (await page.waitForSelector('input[aria-label="Recording of speech"]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(session.file('note.txt.wav', 'no sound at all'))
    await page.waitForSelector('::-p-text(“note.txt.wav” is no WAV file that can be read.)')
    const typed = await page.$$eval('[aria-label="Mouth shapes of the line"] [data-viseme]', (all) => all.length)
    expect(typed).toBeGreaterThan(5)
    const load = async (): Promise<void> => {
      const again = (await page.waitForSelector('input[aria-label="Recording of speech"]')) as ElementHandle<HTMLInputElement>
      await again.uploadFile(new URL('../formats/sound/spoken.wav', import.meta.url).pathname)
      await page.waitForSelector('progress[aria-label=Listening]')
    }
    await load()
    await page.$eval('progress[aria-label=Listening] ~ button', (e) => (e as HTMLButtonElement).click())
    await page.waitForFunction(() => !document.querySelector('progress[aria-label=Listening]'))
    expect(await page.$$eval('[aria-label="Mouth shapes of the line"] [data-viseme]', (all) => all.length)).toBe(typed)
    await load()
    await page.waitForSelector('[aria-label="Stop speaking"]', { timeout: 30_000 })
    // Fourteen seconds of speech.
    const heard = await page.$$eval('[aria-label="Mouth shapes of the line"] [data-viseme]', (all) => all.length)
    expect(heard).toBeGreaterThan(60)
    await page.click('[aria-label="Stop speaking"]')
    expect((await editor.document()).pose).toEqual(before.pose)
    await page.click('[aria-label="Put the recording away"]')
    await page.waitForSelector('input[aria-label="Line to speak"]')
  })

  test('gets expressions and mouth shapes on a board; one is taken up, a shape held over it, and all are checked', async () => {
    await (await page.waitForSelector('button::-p-text(Propose)'))!.click()
    const board = (await editor.document()).poses
    expect(board.filter((p) => p.face === 'mood').length).toBeGreaterThanOrEqual(10)
    await (await page.waitForSelector('[aria-label=Expressions] [aria-label=Glad][aria-pressed=false]'))!.click()
    await page.waitForSelector('[aria-label=Expressions] [aria-label=Glad][aria-pressed=true]')
    const mood = `control/${control(await editor.document(), 'Mood')}/value`
    const glad = (await editor.document()).pose
    expect(glad[mood]).toBeGreaterThan(0.5)
    await page.click('[aria-label="Mouth shape AA AE AW"]')
    await page.waitForSelector('[aria-label="Mouth shape AA AE AW"][aria-pressed=true]')
    // Another mood comes under the sound that is held.
    await page.click('[aria-label=Expressions] [aria-label=Sad]')
    await page.waitForSelector('[aria-label=Expressions] [aria-label=Sad][aria-pressed=true]')
    await page.waitForSelector('[aria-label="Mouth shape AA AE AW"][aria-pressed=true]')
    expect((await editor.document()).pose[mood]).toBeLessThan(-0.5)
    await page.click('[aria-label="Mouth shape AA AE AW"]')
    await page.waitForSelector('[aria-label="Mouth shape AA AE AW"][aria-pressed=false]')
    await editor.button('Check all…')
    await page.waitForFunction(() => document.querySelectorAll('[role=dialog] [aria-label=Fine]').length > 18, { timeout: 30_000 })
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
    await page.click('[aria-label=Expressions] [aria-label=Calm]')
    await page.waitForSelector('[aria-label=Expressions] [aria-label=Calm][aria-pressed=true]')
    expect((await editor.document()).pose).toEqual({})
  })

  test('a line is said aloud, and its sounds are moved on the strip', async () => {
    const cue = async (): Promise<{ x: number; y: number }> =>
      page.$eval('[aria-label="Mouth shapes of the line"] [data-viseme]:nth-of-type(3)', (e) => {
        const box = e.getBoundingClientRect()
        return { x: box.left, y: box.top + box.height / 2 }
      })
    await page.click('button[aria-pressed=false]::-p-text(Silent)')
    await page.click('[aria-label="Speak"]')
    await page.waitForSelector('[aria-label="Stop speaking"]')
    await page.click('[aria-label="Stop speaking"]')
    await page.$eval('[aria-label="Mouth shapes of the line"]', (e) => e.scrollTo(0, 0))
    const from = await cue()
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + 3, from.y, { steps: 2 })
    await page.mouse.move(from.x + 7, from.y, { steps: 2 })
    await page.mouse.up()
    expect((await cue()).x - from.x).toBeGreaterThan(3)
  })
})

describe('alternates', () => {
  test('are made of a group, get mouth shapes by names, and speak in two sets', async () => {
    await (await editor.row('Paper mouth')).click()
    await editor.button('Make alternates')
    await page.waitForSelector('[aria-label="Alternates of Paper mouth"]')
    await page.click('[role=radio]::-p-text(Mouth shapes)')
    await editor.button('Give it mouth shapes')
    await page.waitForSelector('[aria-label="Mouth shapes of Paper mouth"]')
    let puppet = await editor.document()
    const number = (name: string): number => puppet.parts[partId(puppet, name)]!.alternate
    const sounds = () => puppet.parts[partId(puppet, 'Paper mouth')]!.swap!.sets
    expect(sounds()[0]).toEqual({
      name: 'Everyday',
      sounds: { mbp: number('Closed'), oo: number('Round oo'), aa: number('Open aa'), rest: number('Open aa') },
    })
    await editor.choose('Alternate for Rest', 'Closed')
    await page.click('[aria-label="Another set"]')
    await page.waitForSelector('[role=combobox][aria-label="Set of mouth shapes"] ::-p-text(Set 2)')
    await editor.choose('Alternate for AA AE AW', 'Round oo')
    await page.click('[aria-label=Speak]')
    await page.waitForSelector('[aria-label="Stop speaking"]')
    await page.click('[aria-label="Set of mouth shapes"] [role=radio]::-p-text(Everyday)')
    await page.waitForSelector('[aria-label="Speak"]', { timeout: 15_000 })
    puppet = await editor.document()
    expect(sounds().map((s) => [s.name, s.sounds.rest, s.sounds.aa])).toEqual([
      ['Everyday', number('Closed'), number('Open aa')],
      ['Set 2', number('Closed'), number('Round oo')],
    ])
  })

  test('shows the alternate that is clicked, gets a new one, and a flipbook', async () => {
    await page.click('[role=radio]::-p-text(Alternates)')
    await page.click('[aria-label="Show Round oo"]')
    await page.waitForSelector('[aria-label="Show Round oo"][aria-pressed=true]')
    await editor.button('New from this')
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Alternates of Paper mouth"] li').length === 4)
    const add = (await page.waitForSelector('button::-p-text(New flipbook)'))!
    await add.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await add.click()
    await page.waitForSelector('[aria-label="Pictures of Flipbook 1"]')
    await page.click('[aria-label="Flipbook 1 by itself"]')
    await page.waitForSelector('input[aria-label=Every]')
    await page.click('[aria-label="Play Flipbook 1"]')
    const puppet = await editor.document()
    expect(puppet.flipbooks.at(-1)).toMatchObject({ name: 'Flipbook 1', way: 'both', timer: { seed: 1 } })
    expect(puppet.pose[`part/${partId(puppet, 'Paper mouth')}/alternate`]).toBe(puppet.parts[partId(puppet, 'Round oo')]!.alternate)
  })

  test('is shown by a key while it is down, and leaves the pose as it is', async () => {
    // The flipbook has come to its end.
    await page.waitForSelector('[aria-label="Speak"]')
    const puppet = await editor.document()
    const button = (await page.waitForSelector('[aria-label="Key that shows Open aa"]'))!
    await button.evaluate((e) => (e as HTMLElement).click())
    await button.focus()
    await page.keyboard.press('b')
    await page.waitForFunction(() => document.querySelector('[aria-label="Key that shows Open aa"]')!.textContent === 'B')
    expect((await editor.document()).cues).toMatchObject([{ key: 'b', how: 'hold' }])
    const stage = (await page.waitForSelector('[data-testid=art]'))!
    const picture = async (): Promise<Uint8Array> => {
      await editor.sharp()
      return decodePng(await stage.screenshot(), 'The stage').data as Uint8Array
    }
    // Nothing that comes and goes lies over the stage.
    await page.waitForFunction(() => document.querySelector('[data-sonner-toast]') === null)
    await page.mouse.move(2, 2)
    const before = await picture()
    /** How many colour values differ from what was seen before. */
    const changed = async (): Promise<number> => (await picture()).reduce((sum, v, k) => sum + (Math.abs(v - before[k]!) > 24 ? 1 : 0), 0)
    await page.keyboard.down('Alt')
    await page.keyboard.down('b')
    await expect.poll(changed, { timeout: 15_000 }).toBeGreaterThan(2000)
    await page.keyboard.up('b')
    await page.keyboard.up('Alt')
    await expect.poll(changed, { timeout: 15_000 }).toBeLessThan(400)
    expect((await editor.document()).pose).toEqual(puppet.pose)
  })

  test('morphs as it is matched by hand, and gets alternates in between', async () => {
    await editor.button('Morphing…')
    const id = partId(await editor.document(), 'Paper mouth')
    const numbers = async (): Promise<number[]> => {
      const { parts } = await editor.document()
      return parts[id]!.children.map((child) => parts[child]!.alternate)
    }
    await page.waitForSelector('[role=dialog] [aria-label=Matches] li')
    await (await page.waitForSelector('[role=dialog] ::-p-text(as proposed)'))!.click()
    await page.waitForSelector('[role=dialog] [aria-label^="Where "]')
    expect((await editor.document()).parts[id]!.swap!.matches).toMatchObject([{ turn: 0, runsBack: false }])
    const before = await numbers()
    await editor.button('Make 3 in-betweens')
    await page.waitForFunction(
      (n) => document.querySelectorAll('[aria-label="Alternates of Paper mouth"] li').length === n,
      {},
      before.length + 3,
    )
    const made = (await numbers()).filter((n) => !before.includes(n))
    expect(made).toHaveLength(3)
    expect((await editor.document()).flipbooks.at(-1)!.pictures.slice(1, -1)).toEqual(made)
  })
})

describe('an alternate that answers', () => {
  test('is recorded while a control is up', async () => {
    await page.click('section[aria-label=Controls] button::-p-text(Arrange)')
    await (await page.waitForSelector('[aria-label="Arrange Mood"]'))!.click()
    await editor.type('Value', '1')
    const button = (await page.waitForSelector('aside[aria-label=Details] button::-p-text(Record at)'))!
    await button.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await button.click()
    await page.waitForSelector('button::-p-text(Discard)')
    await page.click('[role=radio]::-p-text(Alternates)')
    await page.click('[aria-label="Show Closed"]')
    await page.waitForSelector('section[aria-label=Changes] ::-p-text(Now Closed)')
    await (await page.waitForSelector('button::-p-text(Keep)'))!.click()
    await page.waitForSelector('button::-p-text(Discard)', { hidden: true })
    const puppet = await editor.document()
    const mouth = `part/${partId(puppet, 'Paper mouth')}/alternate`
    const changes = puppet.responses.flatMap((r) => r.stops.flatMap((s) => s.changes))
    expect(changes).toContainEqual(
      expect.objectContaining({ kind: 'choice', channel: mouth, to: puppet.parts[partId(puppet, 'Closed')]!.alternate }),
    )
  })
})

describe('masks', () => {
  test('a row dropped on the middle of another is masked by it; both answers are shown, and either is chosen', async () => {
    await (await page.waitForSelector('[role=treeitem][aria-label="Paper mouth"] [aria-label=Fold]'))!.click()
    await page.waitForSelector('[role=treeitem][aria-label="Paper mouth"] [aria-label=Unfold]')
    const face = await editor.row('Face')
    await face.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    const [from, to] = [(await (await editor.row('Button')).boundingBox())!, (await face.boundingBox())!]
    await page.mouse.move(from.x + 80, from.y + from.height / 2)
    await page.mouse.down()
    await page.mouse.move(from.x + 90, from.y + from.height / 2 + 8, { steps: 3 })
    await page.mouse.move(to.x + 90, to.y + to.height / 2, { steps: 6 })
    await page.waitForSelector('[role=treeitem][aria-label="Face"][data-drop=mask]')
    await page.mouse.up()
    const outside = (await page.waitForSelector('[role=radiogroup][aria-label="Where Button shows"] [role=radio]:last-child'))!
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Where Button shows"] img').length === 2)
    await outside.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await outside.click()
    await editor.type('Soft edge', '6')
    const puppet = await editor.document()
    expect(puppet.parts[partId(puppet, 'Button')]!.masks).toEqual([{ shape: partId(puppet, 'Face'), keep: 'outside', by: 'area', soft: 6 }])
  })

  test('is picked on the stage with the mask tool', async () => {
    await (await editor.row('Tongue')).click()
    const before = (await editor.document()).parts
    const tongue = Object.values(before).find((p) => p.name === 'Tongue')!
    await editor.tool('Mask')
    // The forehead, where nothing else is.
    await editor.click({ x: 200, y: 80 })
    await page.waitForFunction(
      (n) => document.querySelectorAll('[role=radiogroup][aria-label="Where Tongue shows"]').length === n,
      {},
      tongue.masks.length + 1,
    )
    expect((await editor.document()).parts[tongue.id]!.masks).toHaveLength(tongue.masks.length + 1)
  })

  test('all of it is undone, done again, and there after a reload', async () => {
    const after = await editor.document()
    await editor.walkTo(0)
    await expect.poll(async () => (await editor.document()).controls.length).toBe(0)
    const labels = await editor.history()
    await editor.walkTo(labels.length - 1)
    await expect.poll(() => editor.document()).toEqual(after)
    await page.reload()
    await editor.drawn()
    expect(await editor.document()).toEqual(after)
    expect(session.errors).toEqual([])
  })
})
