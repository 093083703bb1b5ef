/** Responses at work: 120 of them with 400 stops on 20,000 points, and what it costs to have more of them active. */
import type { Change, Puppet, Response, Stop } from '@marionette/core/puppet/schema'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { generatePuppet } from '@marionette/core/test/puppets'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { measure, type Figure } from './measure'
import { newControl } from '@marionette/core/controls/new'
import { newResponse } from '@marionette/core/responses/new'
import { drawingBy } from '@marionette/core/artwork/art'

const RESPONSES = 120
const STOPS = 400

/** 60 parts of 334 points; each response moves half of the points of a part at each of its stops, and turns a bone. */
function answeringPuppet(): Puppet {
  const random = seededRandom(9)
  const puppet = generatePuppet({ parts: 60, bones: 30, pointsPerPart: 334 })
  const parts = Object.values(puppet.parts).filter((p) => p.id !== puppet.root)
  const bones = Object.keys(puppet.bones)
  const changesFor = (k: number): Change[] => {
    const part = parts[k % parts.length]!
    const drawing = drawingBy(puppet, part.art['front']!)!
    const ids = drawing.shapes[0]!.paths[0]!.ids.filter((id) => id % 2 === 0)
    return [
      {
        kind: 'points',
        muted: false,
        scale: 1,
        part: part.id,
        drawing: drawing.id,
        ids,
        by: ids.flatMap(() => Array.from({ length: 6 }, () => random() - 0.5)),
      },
      { kind: 'channel', muted: false, scale: 1, channel: `bone/${bones[k % bones.length]}/angle`, by: random() * 4 },
    ]
  }
  const controls = Array.from({ length: RESPONSES }, (_, k) => newControl(`c${k}`, `Control ${k}`))
  const responses = controls.map((c, k): Response => {
    const count = Math.floor(((k + 1) * STOPS) / RESPONSES) - Math.floor((k * STOPS) / RESPONSES)
    const stops = Array.from({ length: count }, (_, s): Stop => ({ id: `s${s}`, at: [(s + 1) / count], changes: changesFor(k) }))
    return { ...newResponse(`r${k}`, `Response ${k}`, 'ruler', [{ kind: 'channel', channel: `control/${c.id}/value` }]), stops }
  })
  return { ...puppet, controls, responses }
}

let made: Puppet | null = null

/** One frame with some of the responses active; a bone turns, so that no frame is like the one before. */
export function responsesFigure(name: string, active: number): Figure {
  const puppet = (made ??= answeringPuppet())
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose.length)
  const apart = RESPONSES / Math.max(1, active)
  writePose(rig, Object.fromEntries(Array.from({ length: active }, (_, k) => [`control/c${Math.floor(k * apart)}/value`, 0.6])), pose)
  return measure(name, active, '60 parts, 20,000 points, 120 responses with 400 stops; n of them active', (round) => {
    pose[0] = round % 40
    evaluate(rig, pose, frame)
  })
}

/** How a frame grows with the responses that are active. */
export const ACTIVE = [0, 5, 10, 20, 40, 80, 120]
