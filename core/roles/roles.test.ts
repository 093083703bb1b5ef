import { describe, expect, test } from 'vitest'
import { keyOf, matchRoles, type Named } from './match'
import { convertName, guessNaming } from './naming'
import type { Naming } from './records'

const named = (name: string, within: string[] = [], x: number | null = null): Named => ({ id: name, name, within, x })
const match = (name: string, naming: Naming = 'character-side', within: string[] = []) => matchRoles([named(name, within)], { naming })[0]
const roleOf = (name: string): string | null => {
  const found = match(name)
  return found ? keyOf(found) : null
}

describe('names to roles', () => {
  test.each([
    ['Upper arm left', 'upper-arm:left'],
    ['upper_arm_R', 'upper-arm:right'],
    ['L_UpperArm', 'upper-arm:left'],
    ['armUpperLft', 'upper-arm:left'],
    ['UPPER ARM RIGHT', 'upper-arm:right'],
    ['arm-lower-l', 'forearm:left'],
    ['lwr arm.R', 'forearm:right'],
    ['hand.L', 'hand:left'],
    ['rhand', 'hand:right'],
    ['leftHand', 'hand:left'],
    ['Hands L', 'hand:left'],
    ['Boots right', 'foot:right'],
    ['shoe_l_2', 'foot:left'],
    ['thigh_rt', 'thigh:right'],
    ['Leg Left Lower', 'shin:left'],
    ['Head copy', 'head'],
    ['layer head 3', 'head'],
    ['torso', 'torso'],
    ['Jacket', 'torso'],
    ['eyebrow L', 'brow:left'],
    ['pupil right', 'pupil:right'],
    ['Teeth', 'upper-teeth'],
    ['beak top', 'upper-beak'],
    ['tail feathers', 'tail'],
    ['front leg upper left', 'front-leg-upper:left'],
    ['Back-Leg-Lower.R', 'hind-leg-lower:right'],
    ['Leg 2 left', 'leg-2:left'],
    ['forarm left', 'forearm:left'],
    ['Órejà', null],
    ['Layer 12', null],
    ['bright light', null],
    ['wheel', null],
  ])('%s', (name, role) => {
    expect(roleOf(name)).toBe(role)
  })

  test('certainty falls with what was not said plainly, and the doubt is in words', () => {
    expect(match('Upper arm left')).toMatchObject({ certainty: 1, grade: 'sure', doubt: '' })
    expect(match('forarm left')).toMatchObject({ grade: 'likely', doubt: '"forarm" was read as "forearm"' })
    expect(match('hand')!.certainty).toBeLessThan(0.9)
    expect(match('hand')!.doubt).toBe('its name says no side')
    expect(match('old torn hand left')!.certainty).toBeLessThan(match('hand left')!.certainty)
  })

  test('sides are those of the convention', () => {
    expect(keyOf(match('hand left', 'viewer-side')!)).toBe('hand:right')
    expect(keyOf(match('hand near', 'near-far')!)).toBe('hand:left')
    expect(keyOf(matchRoles([named('hand near')], { naming: 'near-far', facing: 'right' })[0]!)).toBe('hand:right')
  })

  test('a layer borrows words and side from its groups', () => {
    expect(keyOf(match('upper', 'character-side', ['Arm left'])!)).toBe('upper-arm:left')
    expect(keyOf(match('hand', 'character-side', ['Body', 'left'])!)).toBe('hand:left')
    // It does not become its group.
    expect(match('stitches', 'character-side', ['Arm left'])).toBeUndefined()
  })

  test('a pair without sides is told by where the two lie', () => {
    const found = matchRoles([named('Hand', [], 0.8), { ...named('Hand 2', [], 0.2) }], { naming: 'character-side' })
    expect(found.map(keyOf)).toEqual(['hand:left', 'hand:right'])
    expect(found.every((m) => m.grade === 'likely')).toBe(true)
  })

  test('with a template only its roles count, and what means something else is not forced into them', () => {
    const known = new Set(['tail', 'torso'])
    expect(matchRoles([named('Scarf tail'), named('Tail')], { naming: 'character-side', known }).map((m) => m.id)).toEqual(['Tail'])
  })
})

describe('conventions', () => {
  test('are told by where left and right lie, or by near and far', () => {
    expect(guessNaming([named('arm left', [], 0.8), named('arm right', [], 0.2)])).toBe('character-side')
    expect(guessNaming([named('arm left', [], 0.2), named('arm right', [], 0.8)])).toBe('viewer-side')
    expect(guessNaming([named('arm near'), named('leg far'), named('head')])).toBe('near-far')
    expect(guessNaming([named('arm left'), named('arm right')])).toBeNull()
    expect(guessNaming([named('head', [], 0.5)])).toBeNull()
  })

  test.each<[string, Naming, Naming, string]>([
    ['Upper arm left', 'character-side', 'viewer-side', 'Upper arm right'],
    ['hand_L', 'character-side', 'viewer-side', 'hand_R'],
    ['Leg left', 'character-side', 'near-far', 'Leg near'],
    ['LEG RIGHT', 'character-side', 'near-far', 'LEG FAR'],
    ['Wing far', 'near-far', 'character-side', 'Wing right'],
    ['Wing far', 'near-far', 'viewer-side', 'Wing left'],
    ['bright leftover', 'character-side', 'viewer-side', 'bright leftover'],
    ['Head', 'character-side', 'near-far', 'Head'],
  ])('%s from %s to %s', (name, from, to, converted) => {
    expect(convertName(name, from, to)).toBe(converted)
    if (name !== converted) expect(convertName(converted, to, from)).toBe(name)
  })
})

describe('names as strangers write them', () => {
  const keys = (names: readonly string[], naming: Naming = 'character-side'): (string | null)[] => {
    const found = matchRoles(
      names.map((n) => named(n)),
      { naming },
    )
    return names.map((n) => found.filter((f) => f.id === n).map(keyOf)[0] ?? null)
  }

  test.each([
    [['N_upperarm', 'F_upperarm', 'N_shin', 'head']],
    [['upperarm n.', 'upperarm f.', 'shin n.', 'head']],
    [['upperarm.n', 'upperarm.f', 'shin.n', 'head']],
  ])('single letters are near and far where they come in pairs: %j', (names) => {
    expect(keys(names, 'near-far')).toEqual(['upper-arm:left', 'upper-arm:right', 'shin:left', 'head'])
    expect(guessNaming(names.map((n) => named(n)))).toBe('near-far')
  })

  test('a single n by itself says nothing', () => {
    expect(guessNaming([named('N_head'), named('arm left'), named('arm right')])).not.toBe('near-far')
    expect(keys(['F_hand', 'head'], 'near-far')[1]).toBe('head')
  })

  test('an arm up beside a forearm is an upper arm', () => {
    expect(keys(['R arm up', 'R forearm'])).toEqual(['upper-arm:right', 'forearm:right'])
    expect(keys(['R arm up', 'R hand'])[0]).not.toBe('upper-arm:right')
  })

  test('a nostril keeps its side', () => {
    expect(keys(['nostril L', 'nostril R', 'nose'])).toEqual(['nostril:left', 'nostril:right', 'nose'])
  })

  test('what stands behind or beside the creature gets no role', () => {
    const found = matchRoles([named('Background'), named('hand L', [], 1.3), named('hand R', [], 0.4)], { naming: 'character-side' })
    expect(found.map((f) => f.id)).toEqual(['hand R'])
  })
})
