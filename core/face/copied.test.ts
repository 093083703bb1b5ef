import { expect, test } from 'vitest'
import { bindAttached, bindWhole } from '../binds/commands'
import { addBone } from '../bones/commands'
import { polygonPath } from '../maths/geometry/path'
import { edit } from '../kernel/command'
import { applyEdits } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { caseOf, drawn, FACE, LINE } from '../test/mouths'
import { boundAs } from './copied'
import { mouthEdits } from './mouth/build'

const LIPS = drawn('d-lips', polygonPath([150, 250, 200, 264, 250, 250, 200, 240]), '#4a1f26', LINE)
const TEETH = drawn('d-teeth', polygonPath([165, 240, 235, 240, 235, 256, 165, 256]), '#ffffff', null)
const MOUSTACHE = drawn('d-moustache', polygonPath([130, 250, 165, 236, 200, 240, 235, 236, 270, 250, 200, 252]), '#6b4a30', null)

/** Flat layers, the mouth bound to the head: teeth lie over it, a moustache over both. */
const { puppet: flat, plan } = caseOf('flat', [FACE, LIPS, TEETH, MOUSTACHE], { along: ['moustache'] })
const skull = { id: 'skull', name: 'Skull', parent: null, start: { x: 200, y: 300 }, end: { x: 200, y: 100 } }
const bound = applyEdits(flat, [edit(addBone, skull), edit(bindWhole, { parts: ['lips'], bone: 'skull' })]).puppet

const order = (puppet: Puppet): readonly string[] => puppet.parts[puppet.root]!.children

test('the line of the lips lies over the teeth, and below the moustache', () => {
  const made = applyEdits(bound, mouthEdits(bound, plan, 'm')).puppet
  expect(order(made)).toEqual(['face', 'lips', 'teeth', 'm-line', 'moustache'])
})

test('it goes with the bone that the mouth is bound to', () => {
  const made = applyEdits(bound, mouthEdits(bound, plan, 'm')).puppet
  expect(made.parts['m-line']!.bind).toEqual({ kind: 'whole', bone: 'skull' })
})

test('what hangs on a part hangs there as well; what is in a group is bound by nothing', () => {
  const hung = applyEdits(flat, [edit(bindAttached, { parts: ['lips'], to: 'face', how: 'carried' })]).puppet
  expect(applyEdits(hung, boundAs(hung, 'lips', 'teeth')).puppet.parts['teeth']!.bind).toEqual(hung.parts['lips']!.bind)
  expect(boundAs(flat, 'lips', 'teeth')).toEqual([])
})
