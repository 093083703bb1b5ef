/** Six seconds of acting, made with the mouse: anticipation, a wave, overshoot, a late hand, a spoken line, a blink. */
import { describe, expect, test } from 'vitest'
import type { Clip } from '@marionette/core/clips/records'
import { poseInClip, valuesInClip } from '@marionette/core/playing/clips'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { Puppet } from '@marionette/core/puppet/schema'
import { clipNamed, lookAt, looksAsRendered, poses, unkeyed } from './rehearsing'
import { sessionOfFile } from './session'

const session = sessionOfFile()

const SIX = { length: 6, rate: 24 }
const bone = (puppet: Puppet, name: string) => Object.values(puppet.bones).find((b) => b.name === name)!
const angle = (puppet: Puppet, name: string): string => `bone/${bone(puppet, name).id}/angle`
const control = (puppet: Puppet, name: string): string => `control/${puppet.controls.find((c) => c.name === name)!.id}/value`

/** Where the middle of a hand is at a moment of the clip. */
async function handAt(frame: number): Promise<{ x: number; y: number }> {
  const { puppet, clip } = await clipNamed(session.editor, 'Clip')
  const posed = posePuppet(puppet, poseInClip(puppet, clip, frame / 24))
  return bonePoint(posed, posed.rig.bones.index.get(bone(puppet, 'Hand left').id)!, 0.5)
}

/** Drags the left hand somewhere at a frame, and hangs the pose on the line. */
async function poseHand(frame: number, to: { x: number; y: number }): Promise<void> {
  const { editor } = session
  await lookAt(editor, frame, SIX)
  const count = (await poses(editor)).length
  await editor.drag(await handAt(frame), to)
  await expect.poll(() => unkeyed(editor)).toMatch(/posed, not keyed$/)
  await editor.button('As pose')
  await expect.poll(async () => (await poses(editor)).length).toBe(count + 1)
}

/** Moves a slider of the open shelf to an end by keyboard, and keys it at a frame. */
async function keySlider(name: string, frame: number, key: 'Home' | 'End'): Promise<void> {
  const { editor } = session
  await lookAt(editor, frame, SIX)
  const slider = await editor.page.waitForSelector(`[data-control="${name}"] [role=slider], [data-control="${name}"][role=slider]`)
  await slider!.evaluate((e) => {
    e.scrollIntoView({ block: 'center' })
    ;(e as HTMLElement).focus()
  })
  await editor.key(key)
  await expect.poll(() => unkeyed(editor)).toMatch(/posed, not keyed$/)
  await (await editor.page.waitForSelector('[data-testid=unkeyed] button ::-p-text(Key)'))!.click()
  await expect.poll(() => unkeyed(editor)).toBe(null)
}

const actedClip = async (): Promise<{ puppet: Puppet; clip: Clip }> => clipNamed(session.editor, 'Clip')

describe('six seconds of acting', () => {
  test('a clip of six seconds, posed at rest and through a wave', async () => {
    const { editor, page } = session
    await editor.open('marlo-puppet-1', 'rehearse')
    await editor.button('New clip')
    await page.waitForSelector('[aria-label=Clips] [aria-label=Clip][aria-current=true]')
    await editor.type('Length', '6')
    await expect.poll(async () => (await actedClip()).clip.length).toBe(6)
    await editor.button('Add pose')
    await expect.poll(() => poses(editor)).toHaveLength(1)
    await poseHand(24, { x: 590, y: 330 })
    await poseHand(34, { x: 520, y: 300 })
    await poseHand(44, { x: 600, y: 340 })
    const { puppet, clip } = await actedClip()
    expect(clip.poses.map(({ time }) => Math.round(time * 24))).toEqual([0, 24, 34, 44])
    const upper = angle(puppet, 'Upper arm left')
    expect(valuesInClip(puppet, clip, 1)[upper]! - valuesInClip(puppet, clip, 0)[upper]!).toBeGreaterThan(30)
  })

  test('anticipation before the wave, overshoot at its end, and a limb that comes late', async () => {
    const { editor, page } = session
    await lookAt(editor, 40, SIX)
    await editor.button('Overshoot')
    await lookAt(editor, 12, SIX)
    await editor.button('Anticipation')
    const { puppet, clip } = await actedClip()
    const upper = angle(puppet, 'Upper arm left')
    const at = (frame: number): number => valuesInClip(puppet, clip, frame / 24)[upper]!
    expect(at(4)).toBeLessThan(at(0))
    // A hand that is dragged turns the arm and the forearm; the forearm is the one that comes late.
    const forearm = angle(puppet, 'Forearm left')
    const before = clip.layers[0]!.tracks[forearm]!.keys.map(({ time }) => time)
    await lookAt(editor, 24, SIX)
    await page.click('[aria-label="Show bones"]')
    await editor.click(await handAt(24))
    await page.waitForSelector('[aria-label=Details] ::-p-text(Hand left)')
    await editor.button('Late limb')
    await expect.poll(async () => (await actedClip()).clip.layers[0]!.tracks[forearm]!.keys.map(({ time }) => time)).not.toEqual(before)
  })

  test('a line that is spoken, and a blink', async () => {
    const { editor, page } = session
    await page.keyboard.press('Escape')
    await page.click('section[aria-label=Controls] button[aria-expanded=false]')
    await keySlider('Lids', 99, 'End')
    await keySlider('Lids', 96, 'Home')
    await keySlider('Lids', 102, 'Home')
    await lookAt(editor, 60, SIX)
    await editor.button('Speak at this moment')
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Layers of the clip"] li').length === 2)
    const { puppet, clip } = await actedClip()
    const lids = control(puppet, 'Lids')
    const closed = (frame: number): number => valuesInClip(puppet, clip, frame / 24)[lids]!
    expect(closed(99)).toBeGreaterThan(closed(96))
    expect(closed(102)).toBeCloseTo(closed(96), 6)
  })

  test('a mood for a stretch', async () => {
    const { editor, page } = session
    await lookAt(editor, 60, SIX)
    await editor.button('Add from this moment')
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Layers of the clip"] li').length === 3)
    const { puppet, clip } = await actedClip()
    const mood = clip.layers.at(-1)!
    expect(mood.name).toMatch(/^Mood: /)
    const [moved] = Object.keys(mood.tracks)
    const at = (frame: number): number => valuesInClip(puppet, clip, frame / 24)[moved!] ?? 0
    expect(Math.abs(at(78) - at(60))).toBeGreaterThan(0.01)
    await (await page.waitForSelector('[aria-label="Layers of the clip"] button ::-p-text(Base)'))!.click()
  })

  test('the way of a hand is dragged ten times in a row, then gone evenly', async () => {
    const { editor, page } = session
    // Without the open shelf the puppet is large enough to be dragged with care.
    await page.click('section[aria-label=Controls] button[aria-expanded=true]')
    await lookAt(editor, 24, SIX)
    await editor.tool('Path')
    await editor.click(await handAt(24))
    await page.waitForSelector('[aria-label=Details] ::-p-text(Hand left)')
    const upper = angle((await actedClip()).puppet, 'Upper arm left')
    const there = await handAt(24)
    const inwards = { x: there.x - 24, y: there.y + 16 }
    for (let round = 0; round < 10; round++) {
      await (round % 2 === 0 ? editor.drag(there, inwards) : editor.drag(inwards, there))
      if (round < 8) continue
      const [now, to] = [await handAt(24), round % 2 === 0 ? inwards : there]
      expect(Math.hypot(now.x - to.x, now.y - to.y)).toBeLessThan(4)
    }
    // A frame without a key gets one.
    const keyed = async (): Promise<number[]> => (await actedClip()).clip.layers[0]!.tracks[upper]!.keys.map(({ time }) => time)
    await lookAt(editor, 20, SIX)
    expect(await keyed()).not.toContain(20 / 24)
    const from = await handAt(20)
    await editor.drag(from, { x: from.x - 20, y: from.y + 8 })
    expect(await keyed()).toContain(20 / 24)
    await editor.button('Even spacing')
    const steps = async (): Promise<number[]> => {
      const places = await Promise.all([20, 21, 22, 23, 24].map(handAt))
      return places.slice(1).map((p, k) => Math.hypot(p.x - places[k]!.x, p.y - places[k]!.y))
    }
    await expect.poll(async () => ((of) => Math.max(...of) / Math.min(...of))(await steps())).toBeLessThan(1.25)
    await editor.tool('Pose')
  })

  test('is undone to the beginning, redone, and found again after a reload', async () => {
    const { editor, page } = session
    const made = (await actedClip()).clip
    const done = (await editor.history()).length - 1
    await editor.walkTo(0)
    expect((await editor.document()).clips.map((c) => c.name)).toEqual(['Wave', 'Look round', 'On the way'])
    await editor.walkTo(done)
    expect((await actedClip()).clip).toEqual(made)
    await page.reload()
    await editor.drawn()
    await (await page.waitForSelector('[aria-label=Clips] [aria-label=Clip]'))!.click()
    await expect.poll(() => poses(editor)).toHaveLength(4)
    expect((await actedClip()).clip).toEqual(made)
  })

  test('looks on the stage as the server renders its moments', async () => {
    for (const frame of [4, 27, 48, 70, 99, 143]) await looksAsRendered(session.editor, 'Clip', frame)
    expect(session.errors).toEqual([])
  })
})
