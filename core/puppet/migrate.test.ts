import { describe, expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import { bindBlended } from '../binds/commands'
import { run } from './edit'
import { armPuppet } from '../test/puppets'
import { brokenInvariants, PuppetError } from './invariants'
import { canonicalJson } from '../kernel/json'
import { readPuppet } from './migrate'
import type { Puppet } from './schema'

/** The arm with its sleeve bent linearly, as version 1 did. */
function boundArm(): Puppet {
  const puppet = armPuppet()
  const bones = ['upper', 'lower']
  return run(puppet, bindBlended, { part: 'sleeve', bones, field: autoWeights(puppet, 'sleeve', bones), mode: 'linear' })
}

const raw = (): Record<string, unknown> => JSON.parse(canonicalJson(armPuppet()))

describe('reading puppets', () => {
  test('what was written is read back equal', () => {
    expect(readPuppet(raw())).toEqual(armPuppet())
  })

  test('a newer version is refused with what to do', () => {
    expect(() => readPuppet({ ...raw(), version: 19 })).toThrow('version 19, this build reads up to 18; update')
  })

  test('a puppet of version 1 is brought up and bends as it did', () => {
    const { parts, drawings, bones, view: _view, palette: _palette, ...rest } = JSON.parse(canonicalJson(boundArm())) as Puppet
    const strip = (record: object, ...fields: string[]): object =>
      Object.fromEntries(Object.entries(record).filter(([key]) => !fields.includes(key)))
    const each = <T extends object>(records: Record<string, T>, map: (record: T) => object): object =>
      Object.fromEntries(Object.entries(records).map(([id, record]) => [id, map(record)]))
    const old = {
      ...rest,
      version: 1,
      parts: each(parts, (p) => ({
        ...strip(
          p,
          'masks',
          'swap',
          'alternate',
          'blend',
          'isolated',
          'effect',
          'merged',
          'locked',
          'tag',
          'comment',
          'role',
          'source',
          'twin',
          'inViews',
          'sheet',
        ),
        bind: p.bind && strip(p.bind, 'mode'),
      })),
      drawings: each(drawings, (d) => ({ ...d, shapes: d.shapes.map((s) => strip(s, 'lineFirst')) })),
      bones: each(bones, (b) => strip(b, 'label', 'inViews')),
    }
    expect(readPuppet(old)).toEqual(boundArm())
  })

  test('a posed opacity of version 7 is the opacity itself from version 8 on', () => {
    const { controls: _c, responses: _r, poses: _p, ...old } = raw() as Record<string, unknown>
    const parts = old['parts'] as Record<string, Record<string, unknown>>
    parts['hand'] = { ...parts['hand'], opacity: 0.5 }
    const puppet = readPuppet({ ...old, version: 7, pose: { 'part/hand/opacity': 0.5, 'bone/lower/angle': 12 } })
    expect(puppet.pose).toEqual({ 'part/hand/opacity': 0.25, 'bone/lower/angle': 12 })
    expect(puppet).toMatchObject({ controls: [], responses: [], poses: [], flipbooks: [] })
  })

  test('kept poses and swaps of version 9 are poses off the board, and matched by proposal', () => {
    const { cues: _c, ...old } = raw() as Record<string, unknown>
    const parts = old['parts'] as Record<string, Record<string, unknown>>
    const children = parts['arm-root']!['children'] as string[]
    children.forEach((id, k) => (parts[id] = { ...parts[id], alternate: k + 1 }))
    parts['arm-root'] = { ...parts['arm-root'], swap: { initial: 0, melt: { how: 'cut', seconds: 0, eases: false }, sets: [] } }
    const puppet = readPuppet({ ...old, version: 9, poses: [{ id: 'wave', name: 'Wave', values: { 'bone/lower/angle': 12 } }] })
    expect(puppet.poses[0]!.face).toBeNull()
    expect(puppet.parts['arm-root']!.swap!.matches).toEqual([])
    expect(puppet.cues).toEqual([])
  })

  test('what melts in version 11 morphs', () => {
    const old = raw() as Record<string, unknown>
    const parts = old['parts'] as Record<string, Record<string, unknown>>
    const children = parts['arm-root']!['children'] as string[]
    children.forEach((id, k) => (parts[id] = { ...parts[id], alternate: k + 1 }))
    const swap = (how: string) => ({ initial: 0, melt: { how, seconds: 0.2, eases: true }, sets: [], matches: [] })
    for (const [was, is] of [
      ['melt', 'morph'],
      ['fade', 'fade'],
    ] as const) {
      parts['arm-root'] = { ...parts['arm-root'], swap: swap(was) }
      const puppet = readPuppet({ ...old, version: 11 })
      expect(puppet.parts['arm-root']!.swap).toEqual({ initial: 0, morph: { how: is, seconds: 0.2, eases: true }, sets: [], matches: [] })
    }
  })

  test('a puppet of version 12 has no clips', () => {
    const { clips: _, ...old } = raw() as unknown as Puppet
    expect(readPuppet({ ...old, version: 12 }).clips).toEqual([])
  })

  test('a puppet of version 16 has no springs, and no wind blows', () => {
    const { springs: _s, colliders: _c, wind: _w, ...old } = raw() as unknown as Puppet
    expect(readPuppet({ ...old, version: 16 })).toMatchObject({ springs: [], colliders: [], wind: { strength: 0 } })
  })

  test('versions are brought up step by step', () => {
    const old = { ...raw(), version: 0, title: 'Old arm' }
    const next = (version: number) => (p: Record<string, unknown>) => ({ ...p, version })
    const puppet = readPuppet(old, {
      0: (p) => ({ ...p, version: 1, name: p['title'] }),
      1: next(2),
      2: next(3),
      3: next(4),
      4: next(5),
      5: next(6),
      6: next(7),
      7: next(8),
      8: next(9),
      9: next(10),
      10: next(11),
      11: next(12),
      12: next(13),
      13: next(14),
      14: next(15),
      15: next(16),
      16: next(17),
      17: next(18),
    })
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
