import { expect, test } from 'vitest'
import { answeringArm, by, moved, ruler, to, withResponses } from '../test/responding'
import { inspectRig } from '../reports/report'

const codes = (puppet: Parameters<typeof inspectRig>[0]): string[] =>
  inspectRig(puppet)
    .filter((f) => f.target.kind === 'response')
    .map((f) => `${f.code} ${f.target.id}`)

test('responses that do nothing, have lost points or clash without a priority are found', () => {
  const order = 'part/hand/order'
  const arm = answeringArm()
  expect(codes(withResponses(arm, ruler('good', 'a', { '1': [by('part/hand/x', 4)] })))).toEqual([])
  expect(codes(withResponses(arm, ruler('empty', 'a', { '1': [] })))).toEqual(['response-empty empty'])
  expect(codes(withResponses(arm, ruler('lost', 'a', { '1': [moved('hand', 'd-hand', [99], [1, 0, 0, 0, 0, 0])] })))).toEqual([
    'response-lost-points lost',
  ])
  const clash = [ruler('one', 'a', { '1': [to(order, -1)] }), ruler('two', 'b', { '1': [to(order, 1)] })]
  expect(codes(withResponses(arm, ...clash))).toEqual(['response-clash one'])
  expect(codes(withResponses(arm, clash[0]!, { ...clash[1]!, priority: 2 }))).toEqual([])
})
