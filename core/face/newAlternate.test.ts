import { expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import { applyEdits, run, undoChange } from '../puppet/edit'
import { alternatesOf, makeSwap } from '../alternates/commands'
import { makeTwin } from '../twins/commands'
import { box, drawingPart } from '../test/puppets'
import { newAlternateEdits } from './newAlternate'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'
import { drawingBy } from '../artwork/art'

/** A hand with two alternates on the left, and its mirrored twin. */
function hands(): Puppet {
  const drawings = [box('open', 10, 10, 20, 20), box('fist', 12, 12, 10, 10)]
  const parts = [
    newPart('hand', 'Hand left'),
    ...drawings.map((d) => ({ ...drawingPart(`left-${d.id}`, `${d.id} left`, d), parent: 'hand' })),
  ]
  const puppet = run(run(newPuppet('p', 'P', { width: 100, height: 60 }), addArtwork, { parent: 'p-root', parts, drawings }), makeSwap, {
    group: 'hand',
  })
  return run(puppet, makeTwin, { parts: ['hand'], bones: [], across: { kind: 'mirror', x: 50 }, prefix: 'twin' })
}

test.each(['hand', 'its twin'])('a new alternate of %s appears on both sides and shares its drawing', (which) => {
  const before = hands()
  const other = Object.values(before.parts).find((p) => p.twin?.of === 'hand')!
  const [swap, twin] = which === 'hand' ? [before.parts['hand']!, other] : [other, before.parts['hand']!]
  const { puppet, change } = applyEdits(before, newAlternateEdits(before, swap.id, swap.children[1]!, 'new'))
  expect(brokenInvariants(puppet)).toEqual([])
  const [own, theirs] = [alternatesOf(puppet, swap.id), alternatesOf(puppet, twin.id)]
  expect([own.length, theirs.length]).toEqual([3, 3])
  const made = own.find((a) => !before.parts[a.id])!
  const shared = theirs.find((a) => !before.parts[a.id])!
  expect(shared.art).toEqual(made.art)
  expect(shared.alternate).toBe(made.alternate)
  expect(shared.twin).toEqual({ of: made.id, mirrored: true })
  // A drawing of its own, not that of the alternate that it came from.
  expect(drawingBy(before, Object.values(made.art)[0]!)).toBeUndefined()
  expect(undoChange(puppet, change)).toEqual(before)
})
