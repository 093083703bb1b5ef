import { expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import { WeightCanvas } from '../binds/weightBrush'
import { bindBlended, setWeights } from '../binds/commands'
import { run } from '../puppet/edit'
import { armPuppet } from '../test/puppets'
import { compile } from '../puppet/compile'
import { evaluate, makeFrame, writePose } from '../puppet/evaluate'
import { LiveWeights } from './liveWeights'

const BONES = ['upper', 'lower']
const arm = armPuppet()
const puppet = run(arm, bindBlended, { part: 'sleeve', bones: BONES, field: autoWeights(arm, 'sleeve', BONES), mode: 'linear' })
const pose = { 'bone/lower/angle': 80 }

test('what is painted shows in the pose at once, as it does when it is kept; a stroke that is given up leaves nothing', () => {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const buffer = writePose(rig, pose, new Float64Array(rig.restPose.length))
  const shown = (): number[] => [...evaluate(rig, buffer, frame).samples[0]!]
  const before = shown()
  const { bind } = puppet.parts['sleeve']!
  if (bind?.kind !== 'blended') throw new Error('Nothing is blended.')
  const canvas = new WeightCanvas(bind.field, 2, Float64Array.from(bind.field.vertices))
  const live = new LiveWeights(rig, 'sleeve', canvas)
  for (let x = 150; x <= 260; x += 10)
    live.update(canvas.dab(x, 100, { mode: 'add', bone: 0, radius: 30, strength: 0.3, value: 1, falloff: 0.5 }, new Uint8Array(2)))
  const painted = shown()
  expect(painted).not.toEqual(before)
  const kept = run(puppet, setWeights, { part: 'sleeve', field: canvas.toField() })
  const again = compile(kept)
  const truth = evaluate(again, writePose(again, pose, new Float64Array(again.restPose.length)), makeFrame(again)).points[0]!
  const own = frame.points[0]!
  // Curves may be split elsewhere: corners of the drawing are compared.
  const corners = rig.drawings[0]!.tessellation!.bent.drawn
  const others = again.drawings[0]!.tessellation!.bent.drawn
  corners.forEach((c, i) => {
    expect(own[2 * c]!).toBeCloseTo(truth[2 * others[i]!]!, 2)
    expect(own[2 * c + 1]!).toBeCloseTo(truth[2 * others[i]! + 1]!, 2)
  })
  live.restore()
  expect(shown()).toEqual(before)
})
