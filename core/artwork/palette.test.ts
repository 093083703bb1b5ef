import { expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import { armPuppet } from '../test/puppets'
import { run } from '../puppet/edit'
import { addSwatch, deleteSwatch, linkColours, setSwatch } from './palette'

const inkOf = (p: ReturnType<typeof armPuppet>, drawing: string): unknown => p.drawings[drawing]!.shapes[0]!.ink!.paint

test('what is painted with a swatch follows it, until the swatch is gone', () => {
  let puppet = armPuppet()
  puppet = run(puppet, linkColours, { drawings: ['d-sleeve'], swatches: [{ id: 'cloth', name: 'Cloth', colour: '#aa5533' }] })
  expect(inkOf(puppet, 'd-sleeve')).toEqual({ kind: 'flat', colour: '#aa5533', swatch: 'cloth' })
  puppet = run(puppet, setSwatch, { id: 'cloth', name: 'Wool', colour: '#336699' })
  expect(inkOf(puppet, 'd-sleeve')).toMatchObject({ colour: '#336699' })
  // The hand has the old colour and never followed.
  expect(inkOf(puppet, 'd-hand')).toEqual({ kind: 'flat', colour: '#aa5533' })
  expect(brokenInvariants(puppet)).toEqual([])
  puppet = run(puppet, deleteSwatch, { swatch: 'cloth' })
  expect(inkOf(puppet, 'd-sleeve')).toEqual({ kind: 'flat', colour: '#336699' })
  expect(() => run(puppet, setSwatch, { id: 'cloth', name: 'X', colour: '#000000' })).toThrow('no swatch')
  expect(() =>
    run(run(puppet, addSwatch, { id: 'a', name: 'A', colour: '#000000' }), addSwatch, { id: 'a', name: 'B', colour: '#111111' }),
  ).toThrow('already')
})
