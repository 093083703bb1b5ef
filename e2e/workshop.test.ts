/** Roster, stage, library and the frame around them. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { openPage } from './browser'
import { dropFiles, Editor } from './editor'
import { startSession, type Session } from './session'

const DRAWING = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200">
<g id="Back"><rect x="20" y="20" width="260" height="160" fill="#334455"/></g>
<g id="Kite"><g id="Frame"><rect x="60" y="50" width="80" height="80" fill="#cc8844"/></g><g id="Tail"><rect x="90" y="60" width="100" height="30" fill="#22aa66"/></g></g>
</svg>`

let session: Session
let editor: Editor
let errors: string[]

beforeAll(async () => {
  session = await startSession()
  ;({ editor, errors } = session)
})

afterAll(() => session?.stop())

/** A fresh puppet with the drawing, opened in Parts. */
async function openKite(): Promise<void> {
  const { page } = editor
  const made = await fetch(`${session.server.url}/api/puppets`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{"name":"Kites"}',
  })
  await editor.open(((await made.json()) as { id: string }).id)
  await dropFiles(page, [{ name: 'kite.svg', text: DRAWING }])
  await editor.row('kite')
  await editor.saved()
}

const selected = (): Promise<string[]> =>
  editor.page.$$eval('[role=treeitem][aria-selected=true]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''))
const partNamed = async (name: string) => Object.values((await editor.document()).parts).find((p) => p.name === name)!
const childrenOf = async (name: string) => {
  const puppet = await editor.document()
  const part = Object.values(puppet.parts).find((p) => p.name === name)!
  return part.children.map((id) => puppet.parts[id]!.name)
}

describe('roster and stage', () => {
  beforeEach(openKite)

  test('a click takes the part under the pointer, again the one below', async () => {
    await editor.click({ x: 120, y: 70 })
    await expect.poll(selected).toEqual(['Tail'])
    await editor.click({ x: 120, y: 70 })
    await expect.poll(selected).toEqual(['Frame'])
    await editor.click({ x: 120, y: 70 })
    await expect.poll(selected).toEqual(['Back'])
    await editor.click({ x: 5, y: 5 })
    await expect.poll(selected).toEqual([])
  })

  test('rows are reordered and regrouped by dragging, and nothing moves on the canvas', async () => {
    expect(await editor.rows()).toEqual(['kite', 'Kite', 'Tail', 'Frame', 'Back'])
    await editor.dragRow('Frame', 'Tail', 0.1)
    await expect.poll(() => childrenOf('Kite')).toEqual(['Tail', 'Frame'])
    await editor.dragRow('Back', 'Kite', 0.5)
    await expect.poll(() => childrenOf('Kite')).toEqual(['Tail', 'Frame', 'Back'])
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    await expect.poll(() => childrenOf('Kite')).toEqual(['Frame', 'Tail'])
  })

  test('names, visibility and groups', async () => {
    await (await editor.row('Tail')).click()
    await editor.page.keyboard.press('F2')
    await editor.page.keyboard.type('Ribbon')
    await editor.page.keyboard.press('Enter')
    await editor.row('Ribbon')
    await (await editor.row('Ribbon')).click()
    await editor.key('v')
    await expect.poll(async () => (await partNamed('Ribbon')).visible).toBe(false)
    await editor.key('Control', 'g')
    await editor.page.keyboard.type('Pair')
    await editor.page.keyboard.press('Enter')
    await expect.poll(() => childrenOf('Pair')).toEqual(['Ribbon'])
  })

  test('a part is shown alone and all again', async () => {
    const hidden = async () =>
      Object.values((await editor.document()).parts)
        .filter((p) => !p.visible)
        .map((p) => p.name)
    await (await editor.row('Tail')).click()
    await editor.key('Shift', 'V')
    await expect.poll(hidden).toEqual(expect.arrayContaining(['Frame', 'Back']))
    expect(await hidden()).toHaveLength(2)
    await editor.key('Shift', 'V')
    await expect.poll(hidden).toEqual([])
  })

  test('the menu of a row frames its part on the stage', async () => {
    await openKite()
    const zoom = (): Promise<string> => editor.page.$eval('input[aria-label="Zoom in percent"]', (e) => (e as HTMLInputElement).value)
    const before = await zoom()
    await (await editor.row('Tail')).click({ button: 'right' })
    await (await editor.page.waitForSelector('[role=menuitem] ::-p-text(Frame the selection)'))!.click()
    await expect.poll(zoom).not.toBe(before)
  })

  test('the tree is walked by keys', async () => {
    await (await editor.row('kite')).click()
    for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown']) await editor.page.keyboard.press(key as never)
    expect(await selected()).toEqual(['Frame'])
    await editor.page.keyboard.press('ArrowLeft')
    expect(await selected()).toEqual(['Kite'])
    await editor.page.keyboard.press('ArrowLeft')
    expect(await editor.rows()).toEqual(['kite', 'Kite', 'Back'])
  })

  test('a part is posed by hand and its home changed at rest, each in its own place', async () => {
    await (await editor.row('Frame')).click()
    await editor.tool('Move part')
    await editor.drag({ x: 70, y: 120 }, { x: 100, y: 140 })
    const posed = await partNamed('Frame')
    const { pose } = await editor.document()
    expect(pose[`part/${posed.id}/x`]).toBeCloseTo(30, 0)
    await editor.bench('Bones')
    await editor.tool('Rest position')
    await editor.drag({ x: 70, y: 120 }, { x: 60, y: 110 })
    const moved = await partNamed('Frame')
    expect(moved.home.x - posed.home.x).toBeCloseTo(-10, 0)
    expect((await editor.document()).pose).toEqual(pose)
    await editor.tool('Pivot')
    await editor.drag({ x: 90, y: 80 }, { x: 60, y: 60 })
    expect((await partNamed('Frame')).pivot).not.toEqual(moved.pivot)
  })

  test('bones are branched, re-hung by dragging rows, moved at rest and deleted', async () => {
    const bones = async () => Object.fromEntries(Object.values((await editor.document()).bones).map((b) => [b.name, b]))
    await editor.bench('Bones')
    await editor.tool('Draw bones')
    await editor.drag({ x: 60, y: 90 }, { x: 140, y: 90 })
    await editor.drag({ x: 140, y: 90 }, { x: 190, y: 75 })
    await editor.drag({ x: 140, y: 90 }, { x: 190, y: 130 })
    const first = await bones()
    expect(first['Bone 3']!.parent).toBe(first['Bone 1']!.id)
    expect(first['Bone 2']!.colour).toBe(first['Bone 1']!.colour)
    expect(first['Bone 3']!.colour).not.toBe(first['Bone 1']!.colour)
    await editor.dragRow('Bone 3', 'Bone 2', 0.5)
    await expect.poll(async () => (await bones())['Bone 3']!.parent).toBe(first['Bone 2']!.id)
    await editor.tool('Bones')
    await editor.drag({ x: 190, y: 75 }, { x: 200, y: 60 })
    expect((await bones())['Bone 2']!.end.x).toBeCloseTo(200, 0)
    await (await editor.row('Bone 1')).click()
    await editor.button('Delete with branch')
    expect(await bones()).toEqual({})
  })
})

describe('the frame', () => {
  test('command search finds commands and parts; the shortcut list opens; benches ahead say what they will be', async () => {
    await openKite()
    await editor.key('Control', 'k')
    await editor.page.waitForSelector('[role=dialog] input')
    await editor.page.keyboard.type('Tail')
    await editor.page.waitForSelector('[role=option][data-selected=true] ::-p-text(Tail)')
    await editor.page.keyboard.press('Enter')
    await editor.page.waitForSelector('[role=dialog]', { hidden: true })
    expect(await selected()).toEqual(['Tail'])
    await editor.key('Shift', '?')
    await editor.page.waitForSelector('[role=dialog] ::-p-text(Zoom at the pointer)')
    await editor.page.keyboard.press('Escape')
    await editor.page.waitForSelector('[role=dialog]', { hidden: true })
    await editor.key('Shift', '4')
    await editor.page.waitForSelector('button::-p-text(Build a mouth)')
  })

  test('keys are set to others: who has them is named, and all of it comes back with the browser', async () => {
    await openKite()
    const { page } = editor
    const setting = async (of: string, key: string): Promise<void> => {
      await (await page.waitForSelector(`[aria-label^="Keys of ${of}:"]`))!.click()
      await page.waitForSelector('[role=dialog] [role=status]')
      await page.keyboard.press(key as never)
    }
    await editor.key('Shift', '?')
    await setting('Show history', 'f')
    await page.waitForSelector('[role=dialog] [role=alert] ::-p-text(Frame the selection)')
    await editor.button('Use it here')
    await page.waitForSelector('[aria-label="Keys of Show history: F"]')
    await page.waitForSelector('[aria-label="Keys of Frame the selection: none"]')
    await setting('Frame the selection', 'F8')
    await page.waitForSelector('[aria-label="Keys of Frame the selection: F8"]')
    await setting('Undo', 'Tab')
    await page.waitForSelector('[role=dialog] ::-p-text(its own meaning everywhere)')
    // Escape leaves the keys as they are, and the sheet open.
    await page.keyboard.press('Escape')
    await page.waitForSelector('[aria-label="Keys of Undo: Ctrl Z"]')
    await page.reload()
    await editor.drawn()
    await page.keyboard.press('f')
    await page.waitForSelector('[role=dialog] ol')
    await page.keyboard.press('Escape')
    await page.waitForSelector('[role=dialog]', { hidden: true })
    await editor.key('Shift', '?')
    await editor.button('All as they came')
    await page.waitForSelector('[aria-label="Keys of Frame the selection: F"]')
    await page.keyboard.press('Escape')
  })

  test('the wheel zooms at the pointer to 6400% and Space pans', async () => {
    await openKite()
    const pixel = { x: 600, y: 400 }
    const spot = await editor.under(pixel)
    await editor.page.mouse.move(pixel.x, pixel.y)
    for (let i = 0; i < 40; i++) await editor.page.mouse.wheel({ deltaY: -400 })
    await expect.poll(() => editor.page.$eval('input[aria-label="Zoom in percent"]', (e) => (e as HTMLInputElement).value)).toBe('6400%')
    const shown = async (): Promise<number[]> => Object.values(await editor.at(spot)).map(Math.round)
    await expect.poll(shown).toEqual([600, 400])
    await editor.page.keyboard.down('Space')
    await editor.page.mouse.down()
    await editor.page.mouse.move(pixel.x + 40, pixel.y + 25)
    await editor.page.mouse.up()
    await editor.page.keyboard.up('Space')
    await expect.poll(shown).toEqual([640, 425])
  })

  test('the stage is drawn again only when something changed, and sharp on dense screens', async () => {
    const { page } = await openPage(session.browser, { density: 2 })
    const dense = new Editor(page, session.server.url)
    await dense.open('marlo-puppet-1')
    const art = () =>
      page.$eval('[data-testid=art]', (e) => ({
        drawn: e.getAttribute('data-drawn'),
        ratio: (e as HTMLCanvasElement).width / e.clientWidth,
      }))
    await expect.poll(async () => (await art()).ratio).toBeCloseTo(2, 1)
    const before = await art()
    const stage = (await (await page.$('[data-testid=stage-view]'))!.boundingBox())!
    for (let i = 0; i < 10; i++) await page.mouse.move(stage.x + 100 + 20 * i, stage.y + 200)
    await page.waitForNetworkIdle({ idleTime: 500 })
    expect(await art()).toEqual(before)
    await page.close()
  })

  test('both themes, remembered', async () => {
    await openKite()
    const theme = () => editor.page.$eval('html', (e) => e.dataset['theme'])
    expect(await theme()).toBe('daylight')
    await editor.page.click('[aria-label="Footlights, the dark theme"]')
    expect(await theme()).toBe('footlights')
    await editor.page.reload()
    await editor.drawn()
    expect(await theme()).toBe('footlights')
    await editor.page.click('[aria-label="Daylight, the light theme"]')
  })
})

describe('library', () => {
  const names = () => editor.page.$$eval('[data-puppet] h2', (all) => all.map((e) => e.textContent))

  async function menu(puppet: string, item: string): Promise<void> {
    await (await editor.page.waitForSelector(`[aria-label="More for ${puppet}"]`))!.click()
    await (await editor.page.waitForSelector(`[role=menuitem]::-p-text(${item})`))!.click()
  }

  test('new, duplicate, rename, delete with undo', async () => {
    const { page } = editor
    await page.goto(session.server.url)
    await menu('Marlo', 'Duplicate')
    await expect.poll(names).toContain('Marlo copy')
    await menu('Marlo copy', 'Rename')
    await page.waitForSelector('input[aria-label="Name of the puppet"]')
    await page.keyboard.type('Understudy')
    await page.keyboard.press('Enter')
    await expect.poll(names).toContain('Understudy')
    await menu('Understudy', 'Delete')
    await expect.poll(names).not.toContain('Understudy')
    await editor.button('Undo')
    await expect.poll(names).toContain('Understudy')
    await editor.button('New puppet')
    await page.waitForSelector('::-p-text(An empty stage)')
  })

  test('a file that is no drawing is refused in one sentence', async () => {
    await editor.page.goto(session.server.url)
    await editor.page.waitForSelector('[aria-label="Open Marlo"]')
    await dropFiles(editor.page, [{ name: 'notes.svg', text: 'Buy stamps.' }])
    await editor.page.waitForSelector('::-p-text(notes.svg: This is no artwork that can be read)')
  })

  test('a save from elsewhere is shown, and both versions are kept', async () => {
    await openKite()
    const puppet = await editor.document()
    const answer = await fetch(`${session.server.url}/api/puppets/${puppet.id}`)
    const revision = answer.headers.get('ETag')!
    const headers = { 'Content-Type': 'application/json', 'If-Match': revision }
    const theirs = { ...puppet, note: 'theirs' }
    expect(
      (
        await fetch(`${session.server.url}/api/puppets/${puppet.id}`, {
          method: 'PUT',
          headers,
          body: JSON.stringify({ document: theirs }),
        })
      ).status,
    ).toBe(200)
    await (await editor.row('Tail')).click()
    await editor.key('v')
    await editor.page.waitForSelector('[role=dialog] ::-p-text(This puppet was saved elsewhere)')
    await editor.button('Go on with theirs')
    await editor.page.waitForSelector('[role=dialog]', { hidden: true })
    expect((await editor.document()).note).toBe('theirs')
    const list = (await (await fetch(`${session.server.url}/api/puppets`)).json()) as { name: string }[]
    expect(list.map((p) => p.name)).toContain('Kites, my version')
  })
})

test('the page reported no errors', () => {
  // A refused save is an answer that the interface deals with; the browser lists it all the same.
  expect(errors.filter((e) => !e.includes('412'))).toEqual([])
})
