import { describe, expect, test } from 'vitest'
import { addBone } from '../bones/commands'
import { bindBlended, bindWhole } from '../binds/commands'
import { autoWeights } from '../binds/autoWeights'
import { addArtwork } from '../puppet/artworkCommands'
import { run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import { setPivot } from '../parts/commands'
import { capsule } from '../test/capsule'
import { drawingPart } from '../test/puppets'
import { anglesBetween, jointTurn } from './turn'

const AT = { x: 100, y: 100 }

/** An arm of two pieces; the one that hangs from the other lies above or below it. */
function arm(top: 'upper' | 'fore'): Puppet {
  let puppet = newPuppet('p', 'Arm', { width: 240, height: 200 })
  const upper = capsule('upper-art', { x: 30, y: 100 }, AT, 20)
  const fore = capsule('fore-art', AT, { x: 190, y: 100 }, 20)
  const order = top === 'upper' ? [fore, upper] : [upper, fore]
  puppet = run(puppet, addArtwork, {
    parent: puppet.root,
    parts: order.map((d) => drawingPart(d.id.slice(0, -4), d.id, d)),
    drawings: order,
  })
  puppet = run(puppet, addBone, { id: 'a', name: 'Upper arm', parent: null, start: { x: 30, y: 100 }, end: AT })
  return run(puppet, addBone, { id: 'b', name: 'Forearm', parent: 'a', start: AT, end: { x: 190, y: 100 } })
}

const joint = (top: 'upper' | 'fore') => ({ over: top, under: top === 'upper' ? 'fore' : 'upper', at: AT }) as never

describe('what turns a joint', () => {
  test.each(['upper', 'fore'] as const)('is the bone that starts there, with the %s piece on top', (top) => {
    let puppet = arm(top)
    puppet = run(puppet, bindWhole, { parts: ['upper'], bone: 'a' })
    puppet = run(puppet, bindWhole, { parts: ['fore'], bone: 'b' })
    expect(jointTurn(puppet, joint(top))).toMatchObject({ name: 'Forearm', turning: top === 'fore' ? 'over' : 'under' })
  })

  test.each(['upper', 'fore'] as const)('is the bone that starts there where both pieces bend with the same bones, %s on top', (top) => {
    const puppet = ['upper', 'fore'].reduce(
      (p, part) => run(p, bindBlended, { part: part as never, bones: ['a', 'b'], field: autoWeights(p, part, ['a', 'b']) }),
      arm(top),
    )
    expect(jointTurn(puppet, joint(top)).name).toBe('Forearm')
  })

  test.each(['upper', 'fore'] as const)('is the piece that pivots there where no bone does, %s on top', (top) => {
    const puppet = run(arm(top), setPivot, { part: 'fore', pivot: AT })
    expect(jointTurn(puppet, joint(top))).toMatchObject({ name: 'fore-art', turning: top === 'fore' ? 'over' : 'under' })
  })
})

test('angles run from limit to limit with rest among them', () => {
  expect(anglesBetween(-30, 60, 4)).toEqual([-30, 0, 30, 60])
  expect(anglesBetween(5, 5, 4)).toEqual([0])
})
