/** Springs as a rigger sets them up: a chain is let swing, tuned by its curve on the shaker, kept out of a body, baked, and undone. */
import { describe, expect, test } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { momentsOfClip } from '@marionette/core/playing/moments'
import { nth, sure } from '@marionette/core/kernel/sure'
import { clipNamed, lookAt, looksAsRendered } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()

const boneNamed = (puppet: Puppet, name: string) => sure(Object.values(puppet.bones).find((b) => b.name === name))

async function selectBone(name: string): Promise<void> {
  await (await session.page.waitForSelector(`[role=treeitem][aria-label="${name}"] ::-p-text(${name})`))!.click()
  await session.page.waitForSelector(`[role=treeitem][aria-label="${name}"][aria-selected=true]`)
}

/** The picture on the stage. */
const picture = (): Promise<string> => session.page.$eval('[data-testid=art]', (e) => (e as HTMLCanvasElement).toDataURL())

const scarf = async () => sure((await session.editor.document()).springs.find((s) => s.name.startsWith('Scarf')))

describe('springs', () => {
  test('are made of a bone and all that hangs from it, with a character', async () => {
    const { editor, page } = session
    await editor.open('marlo-puppet-1', 'bones')
    await (await page.waitForSelector('[aria-label="Roster"] ::-p-text(Bones), [role=tab] ::-p-text(Bones)'))!.click()
    await selectBone('Scarf tail')
    await editor.button('Remove')
    await editor.choose('Character', 'Rope')
    await editor.button('Let 2 bones swing')
    await page.waitForSelector('[data-testid=swing-settled]')
    expect(await scarf()).toMatchObject({ name: 'Scarf tail', tempo: 1, settle: 2, bones: { length: 2 } })
  })

  test('are tuned by three numbers, and by dragging the swing and its end ten times in a row', async () => {
    const { editor, page } = session
    await editor.type('Tempo', '2.5')
    await editor.type('Settle', '0.8')
    await editor.type('Throw', '150')
    expect(await scarf()).toMatchObject({ tempo: 2.5, settle: 0.8, throw: 1.5 })
    const dragHandle = async (which: string, dx: number, dy: number): Promise<void> => {
      const { x, y } = (await (await page.waitForSelector(`[data-handle=${which}]`))!.boundingBox())!
      await page.mouse.move(x + 7, y + 7)
      await page.mouse.down()
      await page.mouse.move(x + 7 + dx, y + 7 + dy, { steps: 4 })
      await page.mouse.up()
    }
    const before = (await editor.history()).length
    for (let round = 0; round < 10; round++) await dragHandle('end', round % 2 === 0 ? 12 : -12, 0)
    expect((await editor.history()).length).toBe(before + 10)
    const { settle } = await scarf()
    expect(settle).toBeGreaterThan(0.6)
    expect(settle).toBeLessThan(1)
    await dragHandle('swing', 12, -6)
    const { tempo, settle: shorter } = await scarf()
    expect(tempo).toBeLessThan(2.4)
    // A swing that is less deep dies away sooner.
    expect(shorter).not.toBe(settle)
    await page.keyboard.down('Escape')
    await page.keyboard.up('Escape')
  })

  test('swing on the shaker while they are tuned, and stand as before when it ends', async () => {
    const { editor, page } = session
    await selectBone('Scarf tail')
    await editor.sharp()
    const rest = await picture()
    await (await page.waitForSelector('[aria-label=Shaker] ::-p-text(Hop)'))!.click()
    await expect.poll(picture).not.toBe(rest)
    await editor.type('Tempo', '3')
    expect((await scarf()).tempo).toBe(3)
    await (await page.waitForSelector('[aria-label=Shaker] [aria-pressed=true]'))!.click()
    await editor.sharp()
    await expect.poll(picture).toBe(rest)
  })

  test('keep out of a body', async () => {
    const { editor, page } = session
    await selectBone('Spine')
    await (await page.waitForSelector('[aria-label=Details] label ::-p-text(Springs keep out of it)'))!.click()
    await page.waitForSelector('input[aria-label=Radius]')
    await editor.type('Radius', '70')
    const { colliders } = await editor.document()
    expect(colliders.find((c) => c.name === 'Spine')).toMatchObject({ kind: 'capsule', radius: 70 })
  })

  test('look in a clip as the server renders them, wherever one comes from', async () => {
    const { editor } = session
    await editor.bench('Rehearse')
    await editor.page.waitForSelector('[aria-label=Timeline]')
    for (const frame of [30, 12, 55]) await looksAsRendered(editor, 'Wave', frame)
  })

  test('are baked to keys of the clip that play the same, and undone', async () => {
    const { editor, page } = session
    const before = await clipNamed(editor, 'Wave')
    const done = (await editor.history()).length - 1
    await (await page.waitForSelector('[role=tab] ::-p-text(Parts)'))!.click()
    await page.click('[aria-label="Show bones"]')
    await lookAt(editor, 0, before.clip)
    const { start, end } = boneNamed(before.puppet, 'Scarf tail')
    await editor.click({ x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 })
    await page.waitForSelector('[aria-label=Details] ::-p-text(Scarf tail)')
    await editor.button('Bake to keys')
    await page.waitForSelector('[aria-label="Layers of the clip"] ::-p-text(Baked: Scarf tail)')
    const after = await clipNamed(editor, 'Wave')
    const angleIn = ({ puppet, clip }: typeof before) => {
      const at = momentsOfClip(puppet, clip)
      return (time: number): number => {
        const { frame } = at(time)
        return nth(frame.skeleton.angle, sure(frame.rig.bones.index.get(boneNamed(puppet, 'Scarf tail').id)))
      }
    }
    const [swung, keyed] = [angleIn(before), angleIn(after)]
    for (let k = 0; k <= 84; k += 7) expect(Math.abs(keyed(k / 24) - swung(k / 24))).toBeLessThan(0.6)
    await editor.walkTo(done)
    expect((await clipNamed(editor, 'Wave')).clip).toEqual(before.clip)
    await editor.walkTo(0)
    expect((await editor.document()).springs.map(({ name }) => name)).toEqual(['Hair', 'Scarf', 'Satchel'])
    expect(session.errors).toEqual([])
  })
})
