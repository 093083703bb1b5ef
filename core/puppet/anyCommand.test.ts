import { describe, expect, test } from 'vitest'
import { everything } from '../test/commands/everything'
import { tryCommands } from '../test/commands/trials'
import { armPuppet } from '../test/puppets'
import { run } from './edit'
import { deletePart } from '../parts/commands'
import { setPose } from '../poses/commands'
import { COMMANDS } from './commands'
import { makeTwin } from '../twins/commands'

describe('any command with any arguments', () => {
  test('applies whole or refuses; what it leaves is sound, moves without a lost number and is undone', () => {
    const accepted = new Set<string>()
    for (let seed = 101; seed <= 108; seed++) for (const name of tryCommands(seed, 150).accepted.keys()) accepted.add(name)
    // Most find arguments that fit by chance; the rest refuse, which is tried as well.
    expect(accepted.size).toBeGreaterThan(COMMANDS.size / 2)
  })
})

describe('ids that every object knows', () => {
  test.each(['constructor', 'toString', '__proto__', 'hasOwnProperty'])('%s names nothing', (id) => {
    expect(() => run(armPuppet(), deletePart, { part: id })).toThrow('must not be a word')
    expect(() => run(armPuppet(), setPose, { values: JSON.parse(`{"bone/${id}/angle":3}`) as Record<string, number> })).toThrow(
      'Nothing in this puppet answers',
    )
  })
})

describe('numbers beyond what the maths survives', () => {
  test.each([1e200, -1e200, 1e8])('%d is refused', (x) => {
    expect(() => run(armPuppet(), setPose, { values: { 'bone/upper/x': x } })).toThrow('too')
  })
})

describe('twins', () => {
  test('of a part and a bone of one name have ids of their own', () => {
    const twin = run(everything(), makeTwin, { parts: ['hand'], bones: ['palm'], across: { kind: 'mirror', x: 250 }, prefix: 'again' })
    expect(twin.parts['again-1']!.twin).toEqual({ of: 'hand', mirrored: true })
    expect(twin.parts['again-1']!.bind).toEqual({ kind: 'whole', bone: 'again-bone-1' })
    expect(twin.bones['again-bone-1']!.parent).toBe('lower')
  })

  test('a copy cannot take an id that anything has, of whatever kind', () => {
    const before = everything()
    expect(() => run(before, makeTwin, { parts: ['eye'], bones: [], across: { kind: 'move', dx: 5, dy: 0 }, prefix: 'twin' })).toThrow(
      'twin-1',
    )
  })
})
