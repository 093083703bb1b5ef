import { expect, test } from 'vitest'
import { addView } from '../views/commands'
import { setCamera } from '../staging/commands'
import { newCamera } from '../staging/camera'
import { cameraChannel } from '../staging/channels'
import { setPose } from '../poses/commands'
import { armPuppet } from '../test/puppets'
import { viewChannel } from '../views/channels'
import { run } from './edit'
import { readPuppet } from './migrate'
import { withPuppetId } from './renamed'

test('a copy under another id shows the same view, through the same camera', () => {
  let puppet = run(armPuppet(), addView, { id: 'side', name: 'Side' })
  puppet = run(puppet, setCamera, { camera: newCamera(puppet.canvas) })
  puppet = run(puppet, setPose, { values: { [viewChannel(puppet)]: 1, [cameraChannel(puppet, 'zoom')]: 2 } })
  const copy = readPuppet(withPuppetId(puppet, 'another'))
  expect(copy.view).toBe('side')
  expect(copy.pose).toEqual({ 'puppet/another/view': 1, 'camera/another/zoom': 2 })
  expect(withPuppetId(copy, puppet.id)).toEqual(puppet)
})
