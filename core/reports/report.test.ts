import { expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import { bindBlended, bindWhole } from '../binds/commands'
import { dragBoneEnd, setBoneEnds } from '../bones/commands'
import { run } from '../puppet/edit'
import { addJoint } from '../joints/commands'
import { setHome } from '../parts/commands'
import { armPuppet } from '../test/puppets'
import { inspectRig } from './report'

const codes = (puppet: Parameters<typeof inspectRig>[0]): string[] => inspectRig(puppet).map((f) => `${f.code} ${f.target.name}`)

test('a puppet whose binding has not begun has no findings', () => {
  expect(codes(armPuppet())).toEqual([])
})

test('what follows no bone and what moves nothing is named', () => {
  expect(codes(run(armPuppet(), bindWhole, { parts: ['sleeve'], bone: 'upper' }))).toEqual(['part-unbound Hand', 'bone-moves-nothing Palm'])
})

test('old weights and flattened parts are named first', () => {
  let puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
  puppet = run(puppet, bindBlended, { part: 'sleeve', bones: ['upper'], field: autoWeights(puppet, 'sleeve', ['upper']) })
  puppet = run(puppet, setBoneEnds, dragBoneEnd(puppet, 'upper', 'start', { x: 90, y: 100 }))
  puppet = run(puppet, setHome, { part: 'hand', home: { x: 0, y: 0, angle: 0, scaleX: 0, scaleY: 1, skew: 0 } })
  expect(codes(puppet)).toEqual(['weights-out-of-date Sleeve', 'part-flattened Hand'])
})

test('a joint that does not hold comes first, with what is worst about it', () => {
  const puppet = run(armPuppet(), addJoint, { id: 'j', under: 'sleeve', over: 'hand', at: { x: 300, y: 100 }, radius: 15 })
  const swept = new Map([['j', { grade: 'broken' as const, said: 'opens 12 px (23% of its circle) at -72°' }]])
  expect(inspectRig(puppet, swept)[0]).toMatchObject({
    code: 'joint-faults',
    joint: 'j',
    message: 'opens 12 px (23% of its circle) at -72° where it turns on Sleeve',
  })
  expect(inspectRig(puppet, new Map([['j', { grade: 'good', said: '' }]]))).toEqual([])
})
