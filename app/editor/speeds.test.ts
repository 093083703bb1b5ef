import { expect, test } from 'vitest'
import { compile } from '@marionette/core/puppet/compile'
import { armPuppet } from '@marionette/core/test/puppets'
import { quietEditor } from '../test/quietEditor'
import { heldMoment, holdSpeedsOf, releaseSpeeds } from './speeds'

const { editor } = quietEditor()

test('what a stop listens to is held until it is released', () => {
  const rig = compile(armPuppet())
  holdSpeedsOf(editor, { inputs: [{ kind: 'speed', bone: 'lower' }] }, [250])
  expect(heldMoment(editor, rig).simulation?.speeds?.[rig.bones.index.get('lower')!]).toBe(250)
  releaseSpeeds(editor)
  expect(heldMoment(editor, rig).simulation).toBe(null)
})
