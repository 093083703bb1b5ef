/** Sound in clips as a person uses it: files of every kind, the microphone, moving, trimming, hearing, and what is said as pictures. */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import type { Clip } from '@marionette/core/clips/records'
import { VISEMES } from '@marionette/core/speech/visemes'
import { clipNamed, lookAt } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()
const sounds = new URL('./sounds/', import.meta.url).pathname
const NEW = { length: 2, rate: 24 }

const clipNow = async (): Promise<Clip> => (await clipNamed(session.editor, 'Clip')).clip

/** Drags something of the timeline by some px. */
async function dragBy(selector: string, dx: number, at = 0.5): Promise<void> {
  const { page } = session
  const box = (await (await page.waitForSelector(selector))!.boundingBox())!
  const [x, y] = [box.x + box.width * at, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + dx, y, { steps: 5 })
  await page.mouse.up()
}

/** What the browser was asked to let be heard since it was last asked: when, from which second of a sound, for how long, how loud. */
const heard = (): Promise<number[][]> => session.page.evaluate(() => (globalThis as unknown as { heard: number[][] }).heard.splice(0))

describe('sounds', () => {
  test('are taken in every open format, with their outlines', async () => {
    const { editor, page } = session
    await page.evaluateOnNewDocument(() => {
      const all: number[][] = []
      Object.assign(globalThis, { heard: all })
      const { start } = AudioBufferSourceNode.prototype
      AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when = 0, offset = 0, duration = 0) {
        all.push([when - this.context.currentTime, offset, duration])
        return start.call(this, when, offset, duration)
      }
    })
    await editor.open('marlo-puppet-1', 'rehearse')
    await editor.button('New clip')
    await page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
    for (const name of ['hello.mp3', 'hello.m4a', 'hello.ogg', 'hello.flac']) {
      await (await page.waitForSelector('input[data-testid=sound-file]'))!.uploadFile(join(sounds, name))
      await page.waitForSelector(`[data-sound][aria-label="${name}"]`)
    }
    const clip = await clipNow()
    for (const { duration, at, length } of clip.sounds) {
      expect(duration).toBeGreaterThan(0.75)
      expect(duration).toBeLessThan(0.9)
      expect([at, length]).toEqual([0, duration])
    }
    // Kept as they came.
    const { asset } = clip.sounds.find((s) => s.name === 'hello.ogg')!
    const kept = await fetch(`${session.server.url}/api/assets/${asset}`)
    expect(kept.headers.get('content-type')).toBe('audio/ogg')
    expect(Buffer.from(await kept.arrayBuffer()).equals(readFileSync(join(sounds, 'hello.ogg')))).toBe(true)
  })

  test('what is no sound is refused in a sentence, and nothing is lost', async () => {
    const { page } = session
    const before = await clipNow()
    await (await page.waitForSelector('input[data-testid=sound-file]'))!.uploadFile(session.file('noise.wav', 'no sound at all'))
    await page.waitForSelector('[data-sonner-toast] ::-p-text(no sound that is read)')
    expect(await clipNow()).toEqual(before)
  })

  test('are moved and trimmed by the mouse, ten times in a row, and undone', async () => {
    const { editor, page } = session
    const sound = '[data-sound][aria-label="hello.mp3"]'
    const piece = async () => (await clipNow()).sounds.find((s) => s.name === 'hello.mp3')!
    for (let round = 0; round < 10; round++) await dragBy(sound, round % 2 === 0 ? 84 : -42)
    const moved = await piece()
    expect(moved.at).toBeGreaterThan(0.3)
    expect(moved.at * 24).toBeCloseTo(Math.round(moved.at * 24), 6)
    const box = (await (await page.waitForSelector(sound))!.boundingBox())!
    await dragBy(`${sound} [data-grip=start]`, box.width / 4)
    const begun = await piece()
    expect(begun.from).toBeGreaterThan(0.1)
    expect(begun.at + begun.length).toBeCloseTo(moved.at + moved.length, 6)
    await dragBy(`${sound} [data-grip=end]`, -box.width / 4)
    expect((await piece()).length).toBeLessThan(begun.length - 0.1)
    await editor.key('Control', 'z')
    await editor.key('Control', 'z')
    await expect.poll(piece).toEqual(moved)
  })

  test('are heard from the moment on, as loud as they were set, while the clip plays', async () => {
    const { editor, page } = session
    for (const name of ['hello.m4a', 'hello.ogg', 'hello.flac']) {
      await (await page.waitForSelector(`[data-sound][aria-label="${name}"]`))!.focus()
      await editor.key('Delete')
      await page.waitForSelector(`[data-sound][aria-label="${name}"]`, { hidden: true })
    }
    const [piece] = (await clipNow()).sounds
    await lookAt(editor, 0, NEW)
    await heard()
    await editor.key('p')
    await expect.poll(heard).toEqual([[expect.closeTo(piece!.at, 0), 0, expect.closeTo(piece!.length, 2)]])
    await page.waitForFunction(() => Number(document.querySelector('[data-testid=playhead]')?.textContent) > 6)
    await editor.key('p')
    await page.waitForSelector('[aria-label="Play"], [aria-label^="Play"]')
  })

  test('a moment that is looked for is heard', async () => {
    const { editor } = session
    const [piece] = (await clipNow()).sounds
    await heard()
    await lookAt(editor, Math.round((piece!.at + 0.2) * 24), NEW)
    await expect.poll(async () => (await heard()).length).toBeGreaterThan(0)
  })

  test('the microphone is recorded as plain WAV', async () => {
    const { editor, page } = session
    await editor.button('Record')
    await page.waitForSelector('[role=status] ::-p-text(2 s)')
    await editor.button('Stop')
    await page.waitForSelector('[data-sound][aria-label="Recording 2"]')
    const piece = (await clipNow()).sounds.find((s) => s.name === 'Recording 2')!
    expect(piece.duration).toBeGreaterThan(0.8)
    const kept = await fetch(`${session.server.url}/api/assets/${piece.asset}`)
    expect(kept.headers.get('content-type')).toBe('audio/wav')
    await editor.key('Control', 'z')
    await page.waitForSelector('[data-sound][aria-label="Recording 2"]', { hidden: true })
  })
})

describe('what is said', () => {
  const shapes = (): Promise<string[]> => session.page.$$eval('[data-shape]', (all) => all.map((e) => e.getAttribute('data-shape') ?? ''))
  const spoken = async () => (await clipNow()).layers.find((l) => l.spoken)!.spoken!

  test('of a recording is a row of mouth shapes that move with it', async () => {
    const { editor, page } = session
    await (await page.waitForSelector('[data-sound][aria-label="hello.mp3"]'))!.focus()
    await editor.button('Lip sync')
    await page.waitForSelector('[data-shape] img', { timeout: 60_000 })
    const [before, sound] = [await spoken(), (await clipNow()).sounds[0]!]
    expect(before.sound).toBe(sound.id)
    expect(before.start).toBe(sound.at)
    expect(before.cues.length).toBeGreaterThan(3)
    await dragBy('[data-sound][aria-label="hello.mp3"]', -60)
    const [after, moved] = [await spoken(), (await clipNow()).sounds[0]!]
    expect(moved.at).toBeLessThan(sound.at)
    expect(after.start).toBeCloseTo(moved.at, 9)
    expect(after.cues).toEqual(before.cues)
  })

  test('is replaced by a picture, moved ten times, merged, put in between, and undone', async () => {
    const { editor, page } = session
    const said = await spoken()
    const done = (await editor.history()).length
    const count = (await shapes()).length
    // The longest but for the first and the last, which has room on both sides.
    const lengths = said.cues.map((cue, k) => (k === 0 ? 0 : (said.cues[k + 1]?.at ?? cue.at) - cue.at))
    const index = lengths.indexOf(Math.max(...lengths))
    const shape = `[role=list][aria-label="Mouth shapes"] [data-shape]:nth-child(${index + 1})`
    const beside = said.cues.slice(Math.max(0, index - 1), index + 2).map((cue) => cue.viseme)
    const other = VISEMES.find((viseme) => !beside.includes(viseme))!
    await (await page.waitForSelector(shape))!.click({ count: 2 })
    await (await page.waitForSelector(
      `[aria-label="Mouth shapes to choose from"] button:nth-child(${VISEMES.indexOf(other) + 1})`,
    ))!.click()
    await expect
      .poll(async () => (await spoken()).cues.some((c) => c.at === said.cues[index]!.at && c.viseme !== said.cues[index]!.viseme))
      .toBe(true)
    await editor.key('Control', 'z')
    await expect.poll(spoken).toEqual(said)
    for (let round = 0; round < 10; round++) await dragBy(shape, round % 2 === 0 ? 20 : -20, 0.3)
    expect((await editor.history()).length).toBe(done + 10)
    await (await page.waitForSelector(shape))!.focus()
    await editor.key('Delete')
    await expect.poll(async () => (await shapes()).length).toBeLessThan(count)
    await editor.walkTo(done - 1)
    await expect.poll(spoken).toEqual(said)
  })

  test('as a typed line is heard by the stand-in voice, undone in one step, and found after a reload', async () => {
    const { editor, page } = session
    const before = await clipNow()
    await lookAt(editor, 24, NEW)
    await editor.button('Speak at this moment')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 2)
    const said = await clipNow()
    expect(said.layers.at(-1)!.spoken!.sound).toBe(said.sounds.at(-1)!.id)
    expect(said.length).toBeGreaterThan(2.5)
    await editor.key('Control', 'z')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 1)
    expect(await clipNow()).toEqual(before)
    await editor.key('Control', 'y')
    await page.waitForFunction(() => document.querySelectorAll('[data-sound]').length === 2)
    await editor.saved()
    await page.reload()
    await editor.drawn()
    await (await page.waitForSelector('[aria-label=Clips] [aria-label=Clip]'))!.click()
    await page.waitForFunction(() => document.querySelectorAll('[data-shape] img').length > 5)
    expect(await clipNow()).toEqual(said)
  })
})

test('the page reported no errors', () => {
  expect(session.errors).toEqual([])
})
