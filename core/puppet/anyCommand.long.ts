/** The long variant of anyCommand.test.ts: 20,000 commands from 20 seeds. */
import { expect, test } from 'vitest'
import { tryCommands } from '../test/commands/trials'
import { COMMANDS } from './commands'

const accepted = new Map<string, number>()

test.each(Array.from({ length: 20 }, (_, i) => i + 1))('1,000 commands from seed %d', { timeout: 600_000 }, (seed) => {
  for (const [name, count] of tryCommands(seed, 1000).accepted) accepted.set(name, (accepted.get(name) ?? 0) + count)
})

test('nearly every command was accepted at least once', () => {
  const never = [...COMMANDS.keys()].filter((name) => !accepted.has(name))
  expect(never.length, never.join(' ')).toBeLessThan(12)
})
