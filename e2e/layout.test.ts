/** Every bench, tool and dialog at three sizes of the window and in both themes: no text is cut off, overlaps or runs off its place. */
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { Editor } from './editor'
import { textFaults } from './layout'
import { startSession, type Session } from './session'

const SIZES = [
  [1024, 700],
  [1280, 800],
  [1920, 1080],
] as const

const BENCHES = ['parts', 'bones', 'shape', 'face', 'rehearse', 'send']
/** What is opened by the search, and covers the page. */
const DIALOGS = [
  'Build a mouth',
  'Build eyes',
  'Morphing of alternates',
  'Check expressions',
  'Connections',
  'Fit a template',
  'Take in a new version',
  'Show history',
]
const DOCKHAND = 'dockhand-puppet-1'
const MARLO = 'marlo-puppet-1'

let session: Session
beforeAll(async () => {
  session = await startSession()
})
afterAll(() => session?.stop())

/** Faults by where they were seen. */
class Walk {
  readonly faults = new Set<string>()

  /** Looks at what is there in each size and theme. */
  async look(where: string): Promise<void> {
    const { page } = session
    for (const [width, height] of SIZES) {
      await page.setViewport({ width, height })
      for (const theme of ['daylight', 'footlights']) {
        await page.evaluate((t) => (document.documentElement.dataset['theme'] = t), theme)
        for (const fault of await textFaults(page)) this.faults.add(`${where}, ${width} px: ${fault}`)
      }
    }
    await page.setViewport({ width: 1280, height: 800 })
  }

  async tools(where: string): Promise<void> {
    const { page } = session
    const names = await page.$$eval('[role=toolbar][aria-label=Tools] button[aria-pressed]', (all) =>
      all.map((e) => e.getAttribute('aria-label')!),
    )
    for (const name of names) {
      await session.editor.tool(name)
      await this.look(`${where}, ${name}`)
    }
  }
}

/** Keys chosen, curves open, something posed that has no key, and the tree of parts in place of the clips. */
async function showAllOfRehearse(editor: Editor): Promise<void> {
  await editor.tool('Pose')
  await editor.sharp()
  await editor.drag({ x: 508, y: 600 }, { x: 560, y: 560 })
  await editor.page.waitForSelector('[data-testid=unkeyed]')
  await (await editor.page.waitForSelector('[aria-label=Channels] ::-p-text(Chest)'))!.click()
  await editor.key('Shift', 'c')
  await (await editor.page.waitForSelector('[role=tab] ::-p-text(Parts)'))!.click()
}

test.each(BENCHES)('the bench %s with its tools', async (bench) => {
  const { editor } = session
  const walk = new Walk()
  await editor.open(MARLO, bench)
  await walk.look(bench)
  if (bench === 'rehearse') await showAllOfRehearse(editor)
  await (await editor.row(bench === 'bones' ? 'Forearm left' : 'Jacket')).click()
  await walk.tools(`${bench}, something selected`)
  expect([...walk.faults]).toEqual([])
})

test('the open shelf and a response', async () => {
  const { editor, page } = session
  const walk = new Walk()
  await editor.open(MARLO, 'shape')
  await page.click('section[aria-label=Controls] button[aria-expanded]')
  await page.waitForSelector('section[aria-label=Controls] h4')
  await walk.look('open shelf')
  await page.click('aside[aria-label=Roster] [role=tab]::-p-text(Responses)')
  await (await page.waitForSelector('ul[aria-label=Responses] button[aria-pressed]'))!.click()
  await walk.look('a response')
  expect([...walk.faults]).toEqual([])
})

test('dialogs and the library', async () => {
  const { editor, page } = session
  const walk = new Walk()
  await editor.open(MARLO, 'face')
  for (const name of DIALOGS) {
    await editor.command(name)
    await page.waitForSelector('[role=dialog] h2')
    await walk.look(name)
    await page.keyboard.press('Escape')
    await page.waitForSelector('[role=dialog]', { hidden: true })
  }
  await page.goto(session.server.url)
  await page.waitForSelector('[data-puppet] img')
  await walk.look('library')
  expect([...walk.faults]).toEqual([])
})

test('cutting, joints and weights of a puppet with joints', async () => {
  const walk = new Walk()
  await session.editor.open(DOCKHAND, 'parts')
  await walk.tools('the Dockhand')
  expect([...walk.faults]).toEqual([])
})
