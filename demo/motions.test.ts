import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { addClip } from '@marionette/core/clips/commands'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { bakeMotion } from '@marionette/core/motions/bake'
import { bodyKindOf } from '@marionette/core/motions/creature'
import { READY_MOTIONS } from '@marionette/core/motions/ready'
import { poseInClip } from '@marionette/core/playing/clips'
import { run } from '@marionette/core/puppet/edit'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { Puppet } from '@marionette/core/puppet/schema'
import { guessNaming, namedParts } from '@marionette/core/roles/naming'
import { applyFit } from '@marionette/core/templates/apply'
import { assignRoles } from '@marionette/core/templates/assign'
import { FOUR_LEGGED } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { importSvg } from '@marionette/formats/svg/import'
import { DEMOS } from './demos'

const MOTIONS = READY_MOTIONS.flatMap(({ motions }) => motions)

/** Where the tips of bones go in a ready motion. */
function acting(puppet: Puppet, id: string) {
  const { clip } = bakeMotion(
    puppet,
    MOTIONS.find((m) => m.id === id)!,
    { strength: 1, speed: 1, mirrored: false },
    'acted',
  )
  const acted = run(puppet, addClip, { clip })
  return (name: string, time: number) => {
    const frame = posePuppet(acted, poseInClip(acted, clip, time))
    const bone = Object.values(acted.bones).find((b) => b.name === name)!
    return bonePoint(frame, frame.rig.bones.index.get(bone.id)!, 1)
  }
}
const far = (a: { x: number; y: number }, b: { x: number; y: number }): number => Math.hypot(a.x - b.x, a.y - b.y)

/** A hound that looks to the right, drawn with untidy names, on the template for four-legged animals. */
function hound(): Puppet {
  const { puppet: drawn } = importSvg(readFileSync(new URL('../e2e/artwork/hound.svg', import.meta.url), 'utf8'), 'hound')
  const puppet: Puppet = { ...drawn, naming: guessNaming(namedParts(drawn)) ?? drawn.naming }
  const plan = planFit(puppet, FOUR_LEGGED, assignRoles(puppet, FOUR_LEGGED).roles)
  return applyFit(puppet, plan, { ids: sequentialIds('fit'), replace: true }).puppet
}

describe('ready motions on drawings', () => {
  test('Quill pecks: the head goes down by the path of its neck, the feet stay', () => {
    const { puppet } = DEMOS['quill']!()
    expect(bodyKindOf(puppet)).toBe('bird')
    const tip = acting(puppet, 'bird-peck')
    expect(tip('Beak', 0.95).y).toBeGreaterThan(tip('Beak', 0).y + 300)
    for (const shin of ['Shin near', 'Shin far']) expect(far(tip(shin, 0.95), tip(shin, 0))).toBeLessThan(4)
  })

  test('Clatter sinks and hops on legs that reach for targets', () => {
    const { puppet } = DEMOS['clatter']!()
    expect(bodyKindOf(puppet)).toBe('many-legged')
    const tip = acting(puppet, 'crawler-hop')
    expect(tip('Shell', 0.75).y).toBeLessThan(tip('Shell', 0).y - 40)
    for (const shin of ['Leg back left shin', 'Leg front right shin']) expect(far(tip(shin, 1.1), tip(shin, 0))).toBeLessThan(2)
  })

  test('a hound that nobody had in mind sits down on its hind legs and lifts its head to howl', () => {
    const puppet = hound()
    expect(bodyKindOf(puppet)).toBe('four-legged')
    const sitting = acting(puppet, 'animal-sit')
    expect(sitting('Hips', 1.25).y).toBeGreaterThan(sitting('Hips', 0).y + 15)
    expect(far(sitting('Front leg lower near', 1.25), sitting('Front leg lower near', 0))).toBeLessThan(4)
    const howling = acting(puppet, 'animal-howl')
    expect(howling('Head', 1.6).y).toBeLessThan(howling('Head', 0).y - 40)
  })
})
