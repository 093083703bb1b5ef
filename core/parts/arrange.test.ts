import { describe, expect, test } from 'vitest'
import { importSvg } from '@marionette/formats/svg/import'
import { brokenInvariants } from '../puppet/invariants'
import { sequentialIds } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { restBounds } from './tree'
import { heavyGroups } from '../reports/heavy'
import { duplicateParts, moveParts, renameParts, ungroupParts } from './arrange'
import { mergeGroup, unmergeGroup } from './artCommands'
import { renamed } from './batchNames'
import { run } from '../puppet/edit'
import { setMasks } from '../layering/commands'
import { commentPart, lockPart, tagPart } from './marks'
import { setPartOpacity } from './commands'
import { convertNaming } from '../roles/commands'

const start = (): Puppet =>
  importSvg(
    `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><g id="Arm left" transform="translate(5 0) rotate(10)"><rect id="Hand left" width="10" height="10"/><rect id="Cuff left" y="10" width="10" height="4"/></g><rect id="Body" x="40" width="20" height="60"/><rect id="Hat" x="40" y="-20" width="20" height="10"/></svg>`,
    'P',
    sequentialIds('t'),
  ).puppet
const idOf = (puppet: Puppet, name: string): string => Object.values(puppet.parts).find((p) => p.name === name)!.id
const order = (puppet: Puppet, id = puppet.root): string[] => puppet.parts[id]!.children.map((c) => puppet.parts[c]!.name)
const bounds = (puppet: Puppet, name: string): number[] =>
  Object.values(restBounds(puppet, idOf(puppet, name))!).map((v) => Math.round(v * 1e6) / 1e6)

describe('arranging parts', () => {
  test('several are moved together, in their order, and nothing moves on the canvas', () => {
    const puppet = start()
    const before = bounds(puppet, 'Hand left')
    const moved = run(puppet, moveParts, { parts: [idOf(puppet, 'Hat'), idOf(puppet, 'Hand left')], parent: puppet.root, index: 1 })
    expect(order(moved)).toEqual(['Arm left', 'Hand left', 'Hat', 'Body'])
    expect(bounds(moved, 'Hand left')).toEqual(before)
    expect(brokenInvariants(moved)).toEqual([])
    const arm = idOf(puppet, 'Arm left')
    expect(() => run(puppet, moveParts, { parts: [arm], parent: arm, index: 0 })).toThrow('cannot go into itself')
    expect(() => run(puppet, moveParts, { parts: [arm], parent: idOf(puppet, 'Body'), index: 0 })).toThrow('parts go into groups')
  })

  test('ungrouping leaves everything in its place and hands opacity down', () => {
    const puppet = run(start(), setPartOpacity, { part: idOf(start(), 'Arm left'), opacity: 0.5 })
    const before = bounds(puppet, 'Cuff left')
    const flat = run(puppet, ungroupParts, { parts: [idOf(puppet, 'Arm left')] })
    expect(order(flat)).toEqual(['Hand left', 'Cuff left', 'Body', 'Hat'])
    expect(bounds(flat, 'Cuff left')).toEqual(before)
    expect(flat.parts[idOf(flat, 'Cuff left')]!.opacity).toBe(0.5)
    const masked = run(puppet, setMasks, {
      part: idOf(puppet, 'Arm left'),
      masks: [{ shape: idOf(puppet, 'Body'), keep: 'inside', by: 'area' }],
    })
    expect(() => run(masked, ungroupParts, { parts: [idOf(masked, 'Arm left')] })).toThrow('take that away first')
  })

  test('duplicates have artwork of their own, evaluation above their originals, and masks inside go along', () => {
    const puppet = run(start(), setMasks, {
      part: idOf(start(), 'Cuff left'),
      masks: [{ shape: idOf(start(), 'Hand left'), keep: 'inside', by: 'area' }],
    })
    const twice = run(puppet, duplicateParts, { parts: [idOf(puppet, 'Arm left')], prefix: 'c' })
    expect(order(twice)).toEqual(['Arm left', 'Arm left copy', 'Body', 'Hat'])
    expect(brokenInvariants(twice)).toEqual([])
    expect(Object.keys(twice.drawings)).toHaveLength(6)
    const copy = twice.parts[idOf(twice, 'Arm left copy')]!
    const [hand, cuff] = copy.children.map((id) => twice.parts[id]!)
    expect(cuff!.masks[0]!.shape).toBe(hand!.id)
    expect(order(run(twice, duplicateParts, { parts: [copy.id], prefix: 'd' }))).toContain('Arm left copy 2')
  })

  test('locks, tags, comments and names', () => {
    let puppet = start()
    const hat = idOf(puppet, 'Hat')
    puppet = run(run(run(puppet, lockPart, { parts: [hat], locked: true }), tagPart, { parts: [hat], tag: 3 }), commentPart, {
      part: hat,
      comment: 'too tall',
    })
    expect(puppet.parts[hat]).toMatchObject({ locked: true, tag: 3, comment: 'too tall' })
    expect(run(puppet, renameParts, { names: [{ part: hat, name: 'Cap' }] }).parts[hat]!.name).toBe('Cap')
    expect(() => run(puppet, lockPart, { parts: [puppet.root], locked: true })).toThrow('topmost')
  })

  test('a convention is converted with all names, and back', () => {
    const puppet = start()
    const converted = run(puppet, convertNaming, { to: 'near-far', facing: 'left' })
    expect(converted.naming).toBe('near-far')
    expect(order(converted)[0]).toBe('Arm near')
    expect(order(run(converted, convertNaming, { to: 'character-side', facing: 'left' }))).toEqual(order(puppet))
  })

  test('a merged group shows its picture, keeps what is in it, and comes back', () => {
    const puppet = start()
    const arm = idOf(puppet, 'Arm left')
    const mesh = { spacing: 8, vertices: [0, 0, 20, 0, 20, 10], triangles: [0, 1, 2] }
    const picture = { id: 'm', asset: 'a'.repeat(64), width: 20, height: 10, x: 0, y: 0, scale: 1, mesh }
    const merged = run(puppet, mergeGroup, { part: arm, picture })
    expect(brokenInvariants(merged)).toEqual([])
    expect(order(merged, arm)).toEqual(['Hand left', 'Cuff left'])
    const { minX, maxX } = restBounds(merged, arm)!
    expect(maxX - minX).toBeCloseTo(20 * Math.cos(Math.PI / 18) + 10 * Math.sin(Math.PI / 18), 3)
    const back = run(merged, unmergeGroup, { part: arm })
    expect(back.pictures).toEqual({})
    expect(() => run(puppet, unmergeGroup, { part: arm })).toThrow('is not merged')
  })

  test('heavy groups are named with what merging saves', () => {
    const shapes = Array.from(
      { length: 60 },
      (_, i) => `<rect id="Leaf ${String.fromCharCode(65 + (i % 26))}${i}" x="${i}" width="4" height="4"/>`,
    ).join('')
    const { puppet } = importSvg(
      `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><g id="Tree">${shapes}</g><rect id="Body" width="4" height="4"/></svg>`,
      'T',
      sequentialIds('h'),
    )
    expect(heavyGroups(puppet)).toMatchObject([{ name: 'Tree', layers: 60, points: 240 }])
    expect(heavyGroups(start())).toEqual([])
  })
})

describe('batch names', () => {
  const names = ['Feather left', 'feather Right', 'Tail']
  test.each([
    [{ do: 'add', text: 'Old ', at: 'beginning' } as const, ['Old Feather left', 'Old feather Right', 'Old Tail']],
    [{ do: 'add', text: ' 2', at: 'end' } as const, ['Feather left 2', 'feather Right 2', 'Tail 2']],
    [{ do: 'remove', text: 'feather ', at: 'beginning' } as const, ['left', 'Right', 'Tail']],
    [{ do: 'remove', text: 'LEFT', at: 'end' } as const, ['Feather', 'feather Right', 'Tail']],
    [{ do: 'remove', text: 'tail', at: 'anywhere' } as const, ['Feather left', 'feather Right', 'Tail']],
    [{ do: 'replace', text: 'e', by: 'a', at: 'anywhere' } as const, ['Faathar laft', 'faathar Right', 'Tail']],
    [{ do: 'replace', text: '', by: 'a', at: 'anywhere' } as const, names],
    [{ do: 'number', text: 'Plume', from: 1, digits: 2 } as const, ['Plume 01', 'Plume 02', 'Plume 03']],
    [{ do: 'number', text: '', from: 5, digits: 1 } as const, ['Feather left 5', 'feather Right 6', 'Tail 7']],
    [{ do: 'side' } as const, ['Feather right', 'feather Left', 'Tail']],
  ])('%j', (rule, expected) => expect(renamed(names, rule)).toEqual(expected))
})
