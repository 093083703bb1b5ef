import { describe, expect, test } from 'vitest'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { box, drawingPart } from '@marionette/core/test/puppets'
import { newPuppet } from '@marionette/core/puppet/new'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { applyEdits } from '@marionette/core/puppet/edit'
import { edit } from '@marionette/core/kernel/command'
import type { Puppet } from '@marionette/core/puppet/schema'
import { givenTo, readRoles, rivalledRole, sharedWith, withGiven, type Given } from './fitting'

const person = TEMPLATES.find((t) => t.name === 'Person')!
const NONE: Given = new Map()

/** A coat of two layers, the wider one below. */
function coated(): Puppet {
  const puppet = newPuppet('p', 'Coated', { width: 400, height: 600 })
  const layers = [
    ['coat', 120, 200, 160, 220],
    ['coat lining', 130, 210, 140, 200],
    ['head', 150, 80, 100, 110],
  ] as const
  const drawings = layers.map(([name, x, y, w, h]) => box(`d-${name.replace(' ', '-')}`, x, y, w, h))
  const parts = layers.map(([name], i) => drawingPart(name.replace(' ', '-'), name, drawings[i]!))
  return applyEdits(puppet, [edit(addArtwork, { parent: puppet.root, parts, drawings })]).puppet
}

describe('roles given by hand', () => {
  const puppet = coated()
  const reading = readRoles(puppet, person, NONE)

  test('a part that means a role as well can share it: both go with its bones', () => {
    expect(rivalledRole(reading, 'coat-lining')).toBe('torso')
    const given = sharedWith(NONE, reading, 'coat-lining', 'torso')
    const both = readRoles(puppet, person, given)
    expect([both.byPart.get('coat')?.role, both.byPart.get('coat-lining')?.role]).toEqual(['torso', 'torso'])
    expect(rivalledRole(both, 'coat-lining')).toBeNull()
    const plan = planFit(withGiven(puppet, given), person, both.assignment.roles)
    const bones = (part: string) => plan.binds.find((b) => b.part === part)?.bones
    expect(bones('coat-lining')).toEqual(bones('coat'))
    expect(bones('coat')!.length).toBeGreaterThan(0)
  })

  test('one that is given a role takes it from who was given it before', () => {
    const first = givenTo(puppet, NONE, reading, 'coat', 'torso')
    const second = givenTo(puppet, first, readRoles(puppet, person, first), 'coat-lining', 'torso')
    const now = readRoles(puppet, person, second)
    expect(now.assignment.roles.get('torso')).toMatchObject({ part: 'coat-lining', also: [] })
  })

  test('a role that is only carried is taken from nobody', () => {
    const [carried] = reading.carried
    const first = givenTo(puppet, NONE, reading, 'coat', carried!)
    expect(givenTo(puppet, first, reading, 'coat-lining', carried!).get('coat')).toBe(carried)
  })
})
