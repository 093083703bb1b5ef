/** Clips as ready motions of one's own, retimed clips, and beats, as a person uses them. */
import { expect, test } from 'vitest'
import { valuesInClip } from '@marionette/core/playing/clips'
import { clipNamed } from './rehearsing'
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

test('the page reported no errors', () => {
  expect(session.errors).toEqual([])
})
