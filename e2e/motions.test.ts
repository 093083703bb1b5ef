/** Clips as ready motions of one's own, retimed clips, and beats, as a person uses them. */
import { expect, test } from 'vitest'
import { valuesInClip } from '@marionette/core/playing/clips'
import { acrossAt, clipNamed, lookAt } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()

/** The angle of a bone at a moment of a clip. */
async function angleAt(clipName: string, bone: string, time: number): Promise<number> {
  const { puppet, clip } = await clipNamed(session.editor, clipName)
  const { id } = Object.values(puppet.bones).find((b) => b.name === bone)!
  return valuesInClip(puppet, clip, time)[`bone/${id}/angle`] ?? 0
}

test('a clip is kept as a ready motion, and acted by another puppet', async () => {
  const { editor, page } = session
  await editor.open('marlo-puppet-1', 'rehearse')
  await (await page.waitForSelector('[aria-label=Clips] [aria-label=Wave]'))!.click()
  await editor.button('Keep as ready motion')
  await page.waitForSelector('[data-sonner-toast] ::-p-text(is a ready motion now)')
  const listed = (await (await fetch(`${session.server.url}/api/puppets`)).json()) as { id: string; name: string }[]
  await editor.open(listed.find((p) => p.name === 'Dockhand')!.id, 'rehearse')
  await editor.button('Ready motions')
  await page.click('button[role=combobox][aria-label="Ready motion"]')
  await (await page.waitForSelector('[role=option] ::-p-text(Wave)'))!.click()
  await editor.button('Add as a clip')
  await page.waitForSelector('[aria-label=Clips] [aria-label=Wave][aria-current=true]')
  const { clip, puppet } = await clipNamed(editor, 'Wave')
  expect(clip.length).toBe(3.5)
  // Somebody's arm goes up by a good part of a half turn.
  const arms = Object.values(puppet.bones).filter((b) => /upper arm/i.test(b.name))
  const turns = arms.map((b) => Math.abs(valuesInClip(puppet, clip, 1.2)[`bone/${b.id}/angle`] ?? 0))
  expect(Math.max(...turns)).toBeGreaterThan(60)
  await editor.key('Control', 'z')
  await page.waitForSelector('[aria-label=Clips] [aria-label=Wave]', { hidden: true })
})

test('a clip is retimed, with beats that go along, and undone', async () => {
  const { editor, page } = session
  await editor.open('marlo-puppet-1', 'rehearse')
  await (await page.waitForSelector('[aria-label=Clips] [aria-label=Wave]'))!.click()
  const before = (await clipNamed(editor, 'Wave')).clip
  const was = await angleAt('Wave', 'Upper arm left', 1)
  await (await page.waitForSelector('label ::-p-text(Beats on the ruler)'))!.click()
  await editor.type('New length', '200')
  await editor.button('Retime the clip')
  await expect.poll(async () => (await clipNamed(editor, 'Wave')).clip.length).toBe(2 * before.length)
  expect(await angleAt('Wave', 'Upper arm left', 2)).toBeCloseTo(was, 6)
  expect((await clipNamed(editor, 'Wave')).clip.tempo).toEqual({ perMinute: 60, first: 0 })
  await editor.key('Control', 'z')
  await editor.key('Control', 'z')
  await expect.poll(async () => (await clipNamed(editor, 'Wave')).clip).toEqual(before)
})

test('what lies between chosen keys is played round and round, and changes nothing', async () => {
  const { editor, page } = session
  const before = (await clipNamed(editor, 'Wave')).clip
  await (await page.waitForSelector('[aria-label=Channels] ::-p-text(Upper arm left)'))!.click()
  // Of all keys of the arm those that are chosen by a box: from the second to the fourth.
  const [x, row] = [
    (time: number) => acrossAt(editor, time, before.length),
    await page.$('[aria-label=Channels] ::-p-text(Upper arm left)'),
  ]
  const { y, height } = (await row!.boundingBox())!
  await page.mouse.move((await x(0.5)) - 12, y - 1)
  await page.mouse.down()
  await page.mouse.move((await x(1.375)) + 8, y + height, { steps: 4 })
  await page.mouse.up()
  await editor.key('Control', 'k')
  await (await page.waitForSelector('[cmdk-input]'))!.type('Play from the first chosen')
  await (await page.waitForSelector('[cmdk-item] ::-p-text(Play from the first chosen key)'))!.click()
  const frames = new Set<number>()
  const frame = (): Promise<number> => page.$eval('[data-testid=playhead]', (e) => Number(e.textContent))
  // It goes round: after the end the beginning is seen again.
  let last = await frame()
  await expect
    .poll(
      async () => {
        const now = await frame()
        frames.add(now)
        const isBack = now < last
        last = now
        return isBack
      },
      { interval: 15, timeout: 8000 },
    )
    .toBe(true)
  await editor.key('p')
  expect(Math.min(...frames)).toBeGreaterThanOrEqual(12)
  expect(Math.max(...frames)).toBeLessThanOrEqual(33)
  expect((await clipNamed(editor, 'Wave')).clip).toEqual(before)
})

test('a drawing changes on a key, and is keyed by itself', async () => {
  const { editor, page } = session
  const listed = (await (await fetch(`${session.server.url}/api/puppets`)).json()) as { id: string; name: string }[]
  await editor.open(listed.find((p) => p.name === 'Quill')!.id, 'rehearse')
  await editor.button('New clip')
  await page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
  await (await page.waitForSelector('[role=tab] ::-p-text(Parts)'))!.click()
  await editor.key('Control', 'k')
  await (await page.waitForSelector('[cmdk-input]'))!.type('Lower beak')
  await (await page.waitForSelector('[cmdk-item] ::-p-text(Lower beak)'))!.click()
  const shows = async (): Promise<string | null> =>
    (await page.waitForSelector('button[role=combobox][aria-label=Alternate]'))!.evaluate((e) => e.textContent)
  const show = async (frame: number, at: number): Promise<string> => {
    await lookAt(editor, frame, { length: 2, rate: 24 })
    await page.click('button[role=combobox][aria-label=Alternate]')
    await page.waitForSelector('[role=option]')
    const options = await page.$$('[role=option]')
    const name = await options[at]!.evaluate((e) => e.textContent)
    await options[at]!.click()
    await expect.poll(shows).toBe(name)
    return name!
  }
  await (await page.waitForSelector('label ::-p-text(Auto key)'))!.click()
  const first = await show(0, 0)
  const second = await show(24, 2)
  const { puppet, clip } = await clipNamed(editor, 'Clip')
  const beak = Object.values(puppet.parts).find((p) => p.name === 'Lower beak')!.id
  const at = (time: number): number => valuesInClip(puppet, clip, time)[`part/${beak}/alternate`]!
  // It stays until its key, and is another one from there on.
  expect([at(0), at(0.5), at(0.99)]).toEqual([at(0), at(0), at(0)])
  expect(at(1)).not.toBe(at(0))
  await lookAt(editor, 12, { length: 2, rate: 24 })
  await expect.poll(shows).toBe(first)
  await lookAt(editor, 30, { length: 2, rate: 24 })
  await expect.poll(shows).toBe(second)
})

test('the page reported no errors', () => {
  expect(session.errors).toEqual([])
})
