import { dictionary } from 'cmu-pronouncing-dictionary'
import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { boardOf } from '@marionette/core/face/expressions'
import type { Puppet } from '@marionette/core/puppet/schema'
import type { Viseme } from '@marionette/core/speech/visemes'
import { run } from '@marionette/core/puppet/edit'
import { takeMood } from '@marionette/core/poses/saved'
import { heldSound } from '@marionette/core/playing/moods'
import { playedValues } from '@marionette/core/playing/playing'
import { trackOfLine } from '@marionette/core/speech/track'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig, evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { checkExpressions } from '@marionette/authoring/expressions'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPixels } from '@marionette/render/pixels'
import { flatten } from '@marionette/core/maths/geometry/path'
import { areaInside } from '@marionette/core/maths/geometry/polyline'
import { shownPath } from '@marionette/core/test/mouths'
import { DEMOS } from '../demos'
import { slotOfAddress } from '@marionette/core/kernel/slots'

const marlo = DEMOS['marlo']!().puppet
const rig = compile(marlo)
const named = (name: string): string => Object.values(marlo.parts).find((p) => p.name === name && p.id !== marlo.root)!.id

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const control = (name: string, axis = 'value'): string => `control/${marlo.controls.find((c) => c.name === name)!.id}/${axis}`
/** Height of the open mouth, canvas px. */
function openness(values: Record<string, number>): number {
  const box = frameBounds(poseRig(rig, values), new Set([named('Lips')]))!
  return box.maxY - box.minY
}
/** How much of a colour is seen in a box of the face, px. */
function seen(values: Record<string, number>, part: string, isIt: (r: number, g: number, b: number) => boolean): number {
  const rest = frameBounds(poseRig(rig, {}), new Set([named(part)]))!
  const region = { minX: rest.minX - 10, maxX: rest.maxX + 10, minY: rest.minY - 10, maxY: rest.maxY + 40 }
  const { data } = renderPixels(CK, poseRig(rig, values), { region, scale: 1 })
  let count = 0
  for (let i = 0; i < data.length; i += 4) if (isIt(data[i]!, data[i + 1]!, data[i + 2]!)) count++
  return count
}
const isWhite = (r: number, g: number, b: number): boolean => r > 240 && g > 235 && b > 220
const isRed = (r: number, g: number, b: number): boolean => Math.abs(r - 0xcb) < 12 && Math.abs(g - 0x5f) < 14 && Math.abs(b - 0x57) < 14

describe('Marlo’s mouth', () => {
  test('shows teeth and tongue only while it is open, and closes for m, b and p of a line in two moods', () => {
    expect(seen({}, 'Lips', isWhite) + seen({}, 'Lips', isRed)).toBe(0)
    const open = { [control('Open')]: 1, [control('Teeth')]: 1, [control('Tongue')]: 1 }
    expect(seen(open, 'Lips', isWhite)).toBeGreaterThan(150)
    expect(seen(open, 'Lips', isRed)).toBeGreaterThan(80)
    const speech = trackOfLine('Good morning, post! Maybe a bumpy map.', (w) => (Object.hasOwn(dictionary, w) ? dictionary[w] : undefined))
    for (const mood of [-1, 1]) {
      const closed = openness({ [control('Mood')]: mood })
      const at = (time: number): number => openness({ ...playedValues(marlo, { time, speech, mood: '' }), [control('Mood')]: mood })
      for (const cue of speech.cues.filter((c) => c.viseme === 'mbp')) expect(at(cue.at + 0.02)).toBeCloseTo(closed, 6)
      const aa = speech.cues.find((c) => c.viseme === 'aa')!
      const open = shownPath(marlo, named('Lips'), {
        ...playedValues(marlo, { time: aa.at + 0.01, speech, mood: '' }),
        [control('Mood')]: mood,
      })
      // Mean gap between the lips, px.
      expect(areaInside(flatten(open, 0.1)) / 68).toBeGreaterThan(15)
    }
  })

  test('upper teeth stay under the upper lip while the jaw goes down, and the tongue lies on the lower one', () => {
    const box = (part: string, open: number) => {
      const bare = { ...marlo, parts: { ...marlo.parts, [named(part)]: { ...marlo.parts[named(part)]!, masks: [] } } }
      return frameBounds(poseRig(compile(bare), { [control('Open')]: open }), new Set([named(part)]))!
    }
    expect(box('Teeth upper', 1).minY).toBeLessThan(box('Lips', 1).minY + 1)
    expect(box('Tongue', 1).maxY - box('Tongue', 0).maxY).toBeGreaterThan(5)
    const chin = (values: Record<string, number>): number => frameBounds(poseRig(rig, values), new Set([named('Face')]))!.maxY
    expect(chin({ [control('Open')]: 1 }) - chin({})).toBeGreaterThan(6)
  })
})

describe('Marlo’s eyes', () => {
  test('close whole, look within the white, and blink by themselves', () => {
    expect(seen({}, 'Eye white right', isWhite)).toBeGreaterThan(200)
    expect(seen({ [control('Lids')]: 1 }, 'Eye white right', isWhite)).toBeLessThan(12)
    const [frame, slot] = [makeFrame(rig), slotOfAddress(rig.slots, control('Lids'))]
    const lids = Array.from({ length: 600 }, (_, k) => evaluate(rig, rig.restPose, frame, { time: k / 20, simulation: null }).values[slot])
    expect(lids.filter((v) => v === 1).length).toBeGreaterThan(3)
  })

  test('turning the head leaves closed lids closed', () => {
    const closed = { [control('Lids')]: 1 }
    for (const x of [-1, 1]) expect(seen({ ...closed, [control('Head turn', 'x')]: x }, 'Eye white right', isWhite)).toBeLessThan(30)
  })
})

describe('Marlo’s board', () => {
  test('has ten moods and more, and all sounds; none does nothing, runs into anything or leaves its mask', () => {
    const { moods, sounds } = boardOf(marlo)
    expect(moods.length).toBeGreaterThanOrEqual(10)
    const items = [
      ...moods.map(({ id, values }) => ({ id, values, isStill: false })),
      ...sounds.map(({ id, face }) => ({ id, values: heldSound(marlo, face as Viseme), isStill: false })),
    ]
    expect(checkExpressions(CK, marlo, items).filter((c) => c.findings.length > 0)).toEqual([])
  })

  test('talks in two moods: the mouth closes for m in both, and is bent otherwise in silence', () => {
    const inMood = (name: string): Puppet => run(marlo, takeMood, { mood: boardOf(marlo).moods.find((m) => m.name === name)!.id, share: 1 })
    const [glad, sad] = [inMood('Laughing'), inMood('Sad')]
    for (const puppet of [glad, sad]) {
      const closed = openness({ ...puppet.pose, ...heldSound(puppet, 'mbp') })
      expect(closed).toBeLessThan(openness({ ...puppet.pose, ...heldSound(puppet, 'aa') }) - 15)
    }
    expect(heldSound(glad, 'rest')).not.toEqual(heldSound(sad, 'rest'))
  })
})
