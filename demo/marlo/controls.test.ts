import { describe, expect, test } from 'vitest'
import { randomPose } from '@marionette/core/reports/randomPose'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { loadCanvasKit } from '@marionette/render/node'
import { tornJoints } from '@marionette/authoring/sweep'
import { DEMOS } from '../demos'
import { familyOf } from '@marionette/core/kernel/slots'
import { often } from '@marionette/core/test/often'

const marlo = DEMOS['marlo']!().puppet
const rig = compile(marlo)

describe('Marlo’s controls', () => {
  test('elbows and knees are corrected, head and body turn, brows move', () => {
    expect(marlo.controls.map((c) => c.name)).toEqual([
      'Head turn',
      'Brows',
      'Worry',
      'Body turn',
      'Landing',
      'Open',
      'Width',
      'Mood',
      'Teeth',
      'Tongue',
      'Gaze',
      'Crossing',
      'Lids',
      'Squint',
    ])
    expect(marlo.responses.map((r) => r.name)).toContain('Forearm left corrected')
    expect(marlo.responses.find((r) => r.name === 'Head turn')!.stops).toHaveLength(8)
  })

  test('many poses of everything together: no number is lost, no part is left behind', () => {
    const random = seededRandom(3)
    const frame = makeFrame(rig)
    const pose = new Float64Array(rig.restPose.length)
    for (let k = 0; k < often(300, 1000); k++) {
      evaluate(rig, writePose(rig, randomPose(marlo, random), pose), frame)
      expect([frame.parts, frame.values, ...frame.points].every((list) => list === null || list.every(Number.isFinite))).toBe(true)
      const box = frameBounds(frame)!
      expect(box.maxX - box.minX).toBeLessThan(1500)
      // What is in the head stays on it.
      const at = (name: string): { x: number; y: number } => {
        const part = Object.values(marlo.parts).find((p) => p.name === name && p.id !== marlo.root)!
        const p = 6 * rig.parts.index.get(part.id)!
        return {
          x: frame.parts[p]! * part.pivot.x + frame.parts[p + 2]! * part.pivot.y + frame.parts[p + 4]!,
          y: frame.parts[p + 1]! * part.pivot.x + frame.parts[p + 3]! * part.pivot.y + frame.parts[p + 5]!,
        }
      }
      const face = at('Face')
      for (const name of ['Nose', 'Mouth', 'Eye left', 'Eye right', 'Brow left', 'Ear right', 'Cap']) {
        const { x, y } = at(name)
        expect(Math.hypot(x - face.x, y - face.y)).toBeLessThan(260)
      }
    }
  })

  test('in many poses of everything together no joint opens and no piece is left behind', async () => {
    const random = seededRandom(5)
    const poses = Array.from({ length: often(100, 2000) }, () => randomPose(marlo, random))
    expect(tornJoints(await loadCanvasKit(), marlo, poses, { size: 48 })).toEqual([])
  }, 240_000)

  test('turning the head leaves closed eyes closed and brows where they were put', () => {
    const lid = Object.values(marlo.parts).find((p) => p.name === 'Lid left')!
    const frame = makeFrame(rig)
    const pose = new Float64Array(rig.restPose.length)
    const posed = (values: Record<string, number>): number[] => {
      evaluate(rig, writePose(rig, values, pose), frame)
      return ['x', 'y', 'angle', 'scaleX', 'scaleY', 'opacity'].map((f) => frame.values[pose.length && slot(`part/${lid.id}/${f}`)]!)
    }
    const slot = (address: string): number => {
      const [, id, field] = address.split('/')
      const { base, stride, index } = familyOf(rig.slots, 'part')
      return base + stride * index.get(id!)! + ['x', 'y', 'angle', 'scaleX', 'scaleY', 'opacity'].indexOf(field!)
    }
    const closed = { [`part/${lid.id}/y`]: 14, [`part/${lid.id}/scaleY`]: 1.6 }
    const turned = { 'control/marlo-turn-pad/x': 1, 'control/marlo-turn-pad/y': -1 }
    expect(posed({ ...closed, ...turned })).toEqual(posed(closed))
  })
})
