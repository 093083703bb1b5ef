import { expect, test } from 'vitest'
import { lostInLayers } from './layersLost'
import { newPart } from '@marionette/core/parts/new'

const swap = { initial: 1, morph: { how: 'cut' as const, seconds: 0, eases: false }, sets: [], matches: [] }
const masked = { ...newPart('a', 'A'), masks: [{ shape: 'b', keep: 'inside' as const, by: 'area' as const }] }

test('what layers cannot hold is named, and nothing where they hold all', () => {
  expect(lostInLayers({ parts: { b: newPart('b', 'B') }, flipbooks: [] })).toBeNull()
  expect(lostInLayers({ parts: { a: masked }, flipbooks: [] })).toBe('1 masked part is stored as it looks.')
  expect(lostInLayers({ parts: { a: masked, c: { ...masked, id: 'c' }, b: { ...newPart('b', 'B'), swap } }, flipbooks: [] })).toBe(
    '2 masked parts are stored as they look, 1 swap becomes a group with its other alternates hidden.',
  )
})
