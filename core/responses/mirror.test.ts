import { expect, test } from 'vitest'
import { addBone } from '../bones/commands'
import { run } from '../puppet/edit'
import { mirrorResponse } from './mirror'
import type { Puppet } from '../puppet/schema'
import { addResponse } from './commands'
import { bindWhole } from '../binds/commands'
import { makeTwin } from '../twins/commands'
import { newPuppet } from '../puppet/new'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { by, moved } from '../test/responding'
import { box, drawingPart } from '../test/puppets'
import { newResponse } from './new'
import { mirroredPose, otherAddress } from '../puppet/mirror'
import { addArtwork } from '../puppet/artworkCommands'

/** An arm on the right of the canvas with its mirrored twin on the left. */
function twinned(): Puppet {
  let puppet = newPuppet('two', 'Two', { width: 400, height: 300 })
  const arm = box('d-arm', 240, 90, 80, 20)
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts: [drawingPart('arm', 'Arm left', arm)], drawings: [arm] })
  puppet = run(puppet, addBone, { id: 'bone', name: 'Bone left', parent: null, start: { x: 240, y: 100 }, end: { x: 320, y: 100 } })
  puppet = run(puppet, bindWhole, { parts: ['arm'], bone: 'bone' })
  return run(puppet, makeTwin, { parts: ['arm'], bones: ['bone'], across: { kind: 'mirror', x: 200 }, prefix: 'tw' })
}

test('a mirrored response makes the mirror image of its side, points and all', () => {
  let puppet = twinned()
  const other = otherAddress(puppet, 'bone/bone/angle').split('/')[1]!
  expect(puppet.bones[other]!.name).toBe('Bone right')
  const response = {
    ...newResponse('r', 'Arm left', 'ruler', [{ kind: 'channel', channel: 'bone/bone/angle' }]),
    stops: [
      {
        id: 's',
        at: [40],
        changes: [moved('arm', 'd-arm', [1, 2], [6, -4, 0, 0, 0, 0, 3, 9, 0, 0, 0, 0]), by('part/arm/x', 5), by('part/arm/angle', 12)],
      },
    ],
  }
  puppet = run(run(puppet, addResponse, { response }), mirrorResponse, { response: 'r', id: 'r2' })
  const made = puppet.responses[1]!
  expect(made).toMatchObject({ name: 'Arm right', inputs: [{ channel: `bone/${other}/angle` }] })
  expect(made.stops[0]!.at).toEqual([-40])
  const outline = (pose: Record<string, number>, part: string): number[] => {
    const frame = poseRig(compile(puppet), pose)
    return [...frame.points[frame.rig.drawings.findIndex((d) => frame.rig.parts.ids[d.part] === part)]!]
  }
  const twin = Object.values(puppet.parts).find((p) => p.twin?.of === 'arm')!.id
  const [own, image] = [outline({ 'bone/bone/angle': 40 }, 'arm'), outline({ [`bone/${other}/angle`]: -40 }, twin)]
  own.forEach((v, k) => expect(image[k]).toBeCloseTo(k % 2 === 0 ? 400 - v : v, 4))
})

test('a pose is mirrored: turns change their sense and their side', () => {
  const puppet = twinned()
  const other = otherAddress(puppet, 'bone/bone/angle')
  expect(mirroredPose(puppet, { 'bone/bone/angle': 30, 'part/arm/y': 4 })).toEqual({
    [other]: -30,
    [otherAddress(puppet, 'part/arm/y')]: 4,
  })
})
