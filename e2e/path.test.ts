/** From a drawing to a posed, saved and exported puppet, through the real interface. */
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { decode } from 'fast-png'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet } from '@marionette/core/puppet/schema'
import { readArchive } from '@marionette/formats/archive/archive'
import { dropFiles, type Editor } from './editor'
import { startSession, type Session } from './session'

const DRAWING = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400" viewBox="0 0 600 400">
<g id="Body"><rect x="60" y="140" width="120" height="160" rx="30" fill="#3A5F61"/></g>
<g id="Arm"><path d="M150 160 L450 160 A20 20 0 0 1 450 200 L150 200 A20 20 0 0 1 150 160Z" fill="#E0A544"/></g>
<g id="Hand"><circle cx="480" cy="180" r="30" fill="#D9956A"/></g>
<text x="10" y="20">sketch</text></svg>`

let session: Session
let editor: Editor
let errors: string[]
let downloads: string

beforeAll(async () => {
  session = await startSession()
  ;({ editor, errors, folder: downloads } = session)
})
afterAll(() => session?.stop())

const same = (a: Puppet, b: Puppet): void => expect(canonicalJson(a)).toBe(canonicalJson(b))

async function downloaded(name: string): Promise<Buffer> {
  await expect.poll(() => existsSync(join(downloads, name)), { timeout: 30_000 }).toBe(true)
  return readFileSync(join(downloads, name))
}

async function walkThere(): Promise<{ steps: number; end: Puppet }> {
  const labels = await editor.history()
  return { steps: labels.length - 1, end: await editor.document() }
}

describe('Marlo', () => {
  test('is opened from the library, posed by dragging, and found again after a reload', async () => {
    const { page } = editor
    await page.goto(session.server.url)
    await (await page.waitForSelector('[aria-label="Open Marlo"]'))!.click()
    await editor.drawn()
    const rest = await editor.document()
    await editor.tool('Pose')
    await editor.drag({ x: 520, y: 622 }, { x: 560, y: 330 })
    await editor.drag({ x: 320, y: 220 }, { x: 280, y: 230 })
    const posed = await editor.document()
    const named = (name: string): string => Object.values(posed.bones).find((b) => b.name === name)!.id
    for (const name of ['Upper arm left', 'Forearm left', 'Head']) expect(posed.pose[`bone/${named(name)}/angle`]).toBeTypeOf('number')
    expect(posed.bones).toEqual(rest.bones)
    expect(await editor.history()).toEqual(['As it was opened', 'Reach with Forearm left', 'Reach with Head'])

    await page.reload()
    await editor.drawn()
    same(await editor.document(), posed)
    await editor.walkTo(0)
    same(await editor.document(), rest)
    await editor.walkTo(2)
    same(await editor.document(), posed)
  })

  test('Escape during a drag leaves everything as it was', async () => {
    const before = await editor.document()
    await editor.drag({ x: 120, y: 622 }, { x: 100, y: 300 }, { release: false })
    await editor.page.keyboard.press('Escape')
    await editor.page.mouse.up()
    same(await editor.document(), before)
  })

  test('the rest is shown in Bones and the pose everywhere else', async () => {
    const posed = await editor.document()
    await editor.bench('Bones')
    await editor.page.waitForSelector('[data-testid=stage-view] ::-p-text(Rest)')
    await editor.bench('Parts')
    await editor.key('Shift', '0')
    expect((await editor.document()).pose).toEqual({})
    await editor.key('Control', 'z')
    same(await editor.document(), posed)
  })
})

describe('a drawing of one’s own', () => {
  test('is dropped on the library, and what was not understood is listed', async () => {
    const { page } = editor
    await page.goto(session.server.url)
    await page.waitForSelector('[aria-label="Open Marlo"]')
    await dropFiles(page, [{ name: 'sign.svg', text: DRAWING }])
    await page.waitForSelector('[role=dialog] ::-p-text(is not drawn; turn it into outlines)')
    await editor.button('Understood')
    await (await page.waitForSelector('[aria-label="Open sign"]'))!.click()
    await editor.drawn()
    expect(await editor.rows()).toEqual(['Hand', 'Arm', 'Body'])
  })

  test('gets bones drawn in a chain, artwork bound whole and blended, limits, and a pose', async () => {
    const { page } = editor
    await editor.bench('Bones')
    await editor.tool('Draw bones')
    await editor.drag({ x: 150, y: 180 }, { x: 300, y: 180 })
    await editor.drag({ x: 300, y: 180 }, { x: 450, y: 180 })
    await editor.drag({ x: 450, y: 180 }, { x: 510, y: 180 })
    const drawn = await editor.document()
    const [upper, lower, hand] = ['Bone 1', 'Bone 2', 'Bone 3'].map((name) => Object.values(drawn.bones).find((b) => b.name === name)!)
    expect([upper!.parent, lower!.parent, hand!.parent]).toEqual([null, upper!.id, lower!.id])
    expect(lower!.start).toEqual(upper!.end)

    await editor.tool('Bind')
    await editor.click({ x: 500, y: 200 })
    const part = (puppet: Puppet, name: string) => Object.values(puppet.parts).find((p) => p.name === name)!
    expect(part(await editor.document(), 'Hand').bind).toEqual({ kind: 'whole', bone: hand!.id })

    await (await page.waitForSelector('aside[aria-label=Roster] button::-p-text(Parts)'))!.click()
    await (await editor.row('Arm')).click()
    await (await page.waitForSelector('[aria-label=Bind] button::-p-text(Smooth)'))!.click()
    // The proposed bones bend it at once.
    await page.waitForSelector('button::-p-text(Weigh again)', { timeout: 60_000 })
    const bind = part(await editor.document(), 'Arm').bind
    expect(bind?.kind === 'blended' && new Set(bind.bones)).toEqual(new Set([upper!.id, lower!.id]))

    await editor.click({ x: 375, y: 180 })
    await (await page.waitForSelector('aside[aria-label=Roster] button::-p-text(Bones)'))!.click()
    await (await editor.row('Bone 2')).click()
    await editor.type('Upper limit', '100')
    expect((await editor.document()).bones[lower!.id]!.limits).toEqual({ min: null, max: 100 })

    await editor.bench('Parts')
    await editor.tool('Pose')
    // By its rod a bone is turned alone; rods show where they are asked for.
    await page.click('[aria-label="Show bones"]')
    await editor.drag({ x: 375, y: 180 }, { x: 320, y: 20 })
    const angle = (await editor.document()).pose[`bone/${lower!.id}/angle`]!
    expect(angle).toBeGreaterThan(60)
    expect(angle).toBeLessThanOrEqual(100)
  })

  test('is undone to the beginning and redone to the end, also after a reload', async () => {
    const { steps, end } = await walkThere()
    expect(steps).toBe(7)
    await editor.page.reload()
    await editor.drawn()
    await editor.walkTo(0)
    const beginning = await editor.document()
    expect(beginning.bones).toEqual({})
    expect(beginning.pose).toEqual({})
    for (let i = 0; i < steps; i++) await editor.key('Control', 'Shift', 'z')
    same(await editor.document(), end)
    for (let i = 0; i < steps; i++) await editor.key('Control', 'z')
    same(await editor.document(), beginning)
    await editor.walkTo(steps)
    same(await editor.document(), end)
  })

  test('is taken away as a PNG of the pose and as an archive that opens again equal', async () => {
    const { page } = editor
    const present = await editor.document()
    await editor.bench('Send')
    await editor.type('Width', '300')
    await editor.button('Export PNG')
    const png = decode(await downloaded('sign.png'))
    expect([png.width, png.height]).toEqual([300, 200])
    const alpha = (x: number, y: number): number => png.data[(y * 300 + x) * 4 + 3]!
    expect(alpha(60, 110)).toBe(255)
    expect(alpha(240, 90)).toBe(0)

    await editor.button('Export archive')
    const archive = await downloaded('sign.marionette')
    same(readArchive(archive).puppet, present)
    await page.goto(session.server.url)
    const input = await page.waitForSelector('[data-testid=file-input]')
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(join(downloads, 'sign.marionette'))
    await page.waitForFunction((old) => location.pathname.startsWith('/puppet/') && !location.pathname.includes(old), {}, present.id)
    await editor.drawn()
    const again = await editor.document()
    same({ ...again, id: present.id }, present)
  })
})

test('the page reported no errors', () => expect(errors).toEqual([]))
