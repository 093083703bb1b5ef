import { describe, expect, test } from 'vitest'
import { armPuppet } from '../test/puppets'
import { brokenInvariants, PuppetError } from './invariants'
import { canonicalJson } from './json'
import { readPuppet } from './migrate'

const raw = (): Record<string, unknown> => JSON.parse(canonicalJson(armPuppet()))

describe('reading puppets', () => {
  test('what was written is read back equal', () => {
    expect(readPuppet(raw())).toEqual(armPuppet())
  })

  test('a newer version is refused with what to do', () => {
    expect(() => readPuppet({ ...raw(), version: 9 })).toThrow('version 9, this build reads up to 1; update')
  })

  test('an older version is brought up step by step', () => {
    const old = { ...raw(), version: -1, title: 'Old arm' }
    const puppet = readPuppet(old, { [-1]: (p) => ({ ...p, version: 0, name: p['title'] }), 0: (p) => ({ ...p, version: 1 }) })
    expect(puppet.name).toBe('Old arm')
  })

  test('other data is refused', () => {
    for (const data of [null, 7, 'x', [], {}, { format: 'something' }]) expect(() => readPuppet(data)).toThrow(PuppetError)
  })

  test.each([
    [
      'a part that hangs from nothing',
      (p: never) => delete (p as { parts: Record<string, { children: string[] }> }).parts['arm-root']!.children[0],
      'parts',
    ],
    ['a missing drawing', (p: never) => delete (p as { drawings: Record<string, unknown> }).drawings['d-hand'], 'd-hand'],
    [
      'a circle of bones',
      (p: never) => Object.assign((p as { bones: Record<string, object> }).bones['upper']!, { parent: 'palm' }),
      'upper',
    ],
    ['a pose of nothing', (p: never) => Object.assign((p as { pose: object }).pose, { 'bone/tail/angle': 3 }), 'pose.bone/tail/angle'],
  ])('%s is found', (_, damage, words) => {
    const puppet = structuredClone(armPuppet())
    damage(puppet as never)
    const children = puppet.parts[puppet.root]!.children
    puppet.parts[puppet.root]!.children = children.filter(Boolean)
    expect(JSON.stringify(brokenInvariants(puppet))).toContain(words)
  })
})
