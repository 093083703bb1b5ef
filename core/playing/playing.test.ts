import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { newPuppet } from '../puppet/new'
import type { Flipbook } from '../alternates/records'
import type { Puppet } from '../puppet/schema'
import { run } from '../puppet/edit'
import { setPose } from '../poses/commands'
import { makeSwap, setFlipbook, setSwap } from '../alternates/commands'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { pageAt, pagesOf, roundOf, TimedFlipbook } from '../alternates/flipbook'
import { alternateFor, playedValues } from './playing'
import { trackOf } from '../speech/track'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'

/** A lid with three alternates: open, half, closed; a mouth with two. */
function face(): Puppet {
  let puppet = newPuppet('p', 'P', { width: 100, height: 100 })
  const group = (id: string, children: readonly string[]) => [
    newPart(id, id),
    ...children.map((child) => ({ ...newPart(child, child), parent: id })),
  ]
  puppet = run(puppet, addArtwork, {
    parent: puppet.root,
    parts: [...group('lid', ['closed', 'half', 'open']), ...group('mouth', ['shut', 'wide'])],
    drawings: [],
  })
  return run(run(puppet, makeSwap, { group: 'lid' }), makeSwap, { group: 'mouth' })
}

const blink: Flipbook = {
  ...{ id: 'blink', name: 'Blink', channel: 'part/lid/alternate', pictures: [2, 1, 2], hold: 0.04, way: 'forward', ends: 'once' },
  timer: { every: 3, vary: 0.5, seed: 4 },
}

describe('flipbooks', () => {
  const book = { pictures: [1, 2, 3], hold: 0.1 }

  test('run forward, back, and there and back', () => {
    expect(pagesOf({ pictures: [1, 2, 3], way: 'forward' })).toEqual([1, 2, 3])
    expect(pagesOf({ pictures: [1, 2, 3], way: 'back' })).toEqual([3, 2, 1])
    expect(pagesOf({ pictures: [1, 2, 3], way: 'both' })).toEqual([1, 2, 3, 2])
    expect(roundOf({ ...book, way: 'both' })).toBeCloseTo(0.4, 9)
  })

  test('loop, hold the last, or give way', () => {
    const at = (ends: Flipbook['ends']) => [-1, 0, 0.15, 0.25, 0.31].map((t) => pageAt({ ...book, way: 'forward', ends }, t))
    expect(at('loop')).toEqual([null, 1, 2, 3, 1])
    expect(at('hold')).toEqual([null, 1, 2, 3, 3])
    expect(at('once')).toEqual([null, 1, 2, 3, null])
  })

  test('timers begin them at human times: never at once, about as often as set, the same for a seed', () => {
    const timed = new TimedFlipbook(blink, blink.timer!)
    const begins = timed.beginsUntil(600)
    expect(begins).toEqual(new TimedFlipbook(blink, blink.timer!).beginsUntil(600))
    expect(begins).not.toEqual(new TimedFlipbook(blink, { ...blink.timer!, seed: 5 }).beginsUntil(600))
    expect(Math.abs(begins.length - 200)).toBeLessThan(20)
    expect(begins.every((t, k) => k === 0 || (t - begins[k - 1]! >= 1.49 && t - begins[k - 1]! <= 4.51))).toBe(true)
    expect(timed.pageAt(begins[3]! + 0.05)).toBe(1)
    expect(timed.pageAt(begins[3]! + 0.13)).toBe(-1)
    // Whatever was asked for before.
    expect(new TimedFlipbook(blink, blink.timer!).pageAt(begins[3]! + 0.05)).toBe(1)
  })
})

describe('playing', () => {
  const withBlink = run(face(), setFlipbook, { flipbook: blink })
  const shown = (puppet: Puppet, time: number): string => {
    const played = playedValues(puppet, { time, speech: null, mood: '' })
    const frame = poseRig(compile(puppet), { ...puppet.pose, ...played }, { time, simulation: null })
    return puppet.parts['lid']!.children.find((id) => frame.shown[frame.rig.parts.index.get(id)!] === 1)!
  }

  test('blinks restore the lid that was chosen, and never fire over it, in every order of events', () => {
    const begins = new TimedFlipbook(blink, blink.timer!).beginsUntil(60)
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: fc.double({ min: 0, max: 60, noNaN: true }), lid: fc.constantFrom(1, 2, 3) }), { maxLength: 6 }),
        fc.array(fc.oneof(fc.double({ min: 0, max: 60, noNaN: true }), fc.constantFrom(...begins.map((b) => b + 0.05))), {
          minLength: 1,
          maxLength: 8,
        }),
        (choices, looks) => {
          const order = [...choices].sort((a, b) => a.at - b.at)
          for (const time of looks) {
            const chosen = order.filter((c) => c.at <= time).at(-1)?.lid ?? 3
            const puppet = run(withBlink, setPose, { values: { 'part/lid/alternate': chosen } })
            const isBlinking = begins.some((b) => time >= b && time < b + roundOf(blink))
            const seen = shown(puppet, time)
            if (chosen !== 3 || !isBlinking) expect(seen).toBe(['closed', 'half', 'open'][chosen - 1])
            else expect(['closed', 'half']).toContain(seen)
            expect(puppet.pose['part/lid/alternate'] ?? 3).toBe(chosen)
          }
        },
      ),
      { numRuns: 40 },
    )
  })

  test('speech shows alternates of the mood, and falls back where a set lacks them; lids are left alone', () => {
    const { swap } = face().parts['mouth']!
    const sets = [
      { name: 'Everyday', sounds: { rest: 1, aa: 2 } },
      { name: 'Sad', sounds: { rest: 2, aa: 1 } },
    ]
    const puppet = run(withBlink, setSwap, { part: 'mouth', swap: { ...swap!, sets } })
    const speech = trackOf([
      { name: 'AA', seconds: 0.3, word: 0 },
      { name: 'M', seconds: 0.3, word: 0 },
    ])
    const at = (time: number, mood: string) => playedValues(puppet, { time, speech, mood })
    expect(at(0.1, 'Everyday')).toMatchObject({ 'part/mouth/alternate': 2, 'part/mouth/way': 1 })
    expect(at(0.1, 'Sad')).toMatchObject({ 'part/mouth/alternate': 1 })
    expect(at(0.4, 'Happy')).toMatchObject({ 'part/mouth/alternate': 1 })
    expect(Object.keys(at(0.1, 'Sad')).some((a) => a.startsWith('part/lid'))).toBe(false)
    expect(alternateFor({ sets: [] }, 'aa')).toBeNull()
  })
})
