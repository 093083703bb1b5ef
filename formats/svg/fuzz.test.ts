import { expect, test } from 'vitest'
import { parsePuppet } from '@marionette/core/document/invariants'
import { seededRandom } from '@marionette/core/test/puppets'
import { demoSvg } from '@marionette/demo/demos'
import { FormatError } from '../warnings'
import { importSvg } from './import'

const INSERTS = [
  '<',
  '>',
  '"',
  '&amp;',
  '&x;',
  'NaN',
  '1e999',
  '-',
  'url(#',
  'Z',
  '</g>',
  '<g>',
  '\u0000',
  'é',
  '%',
  'matrix(',
  ' d="M"',
  '<use href="#head"/>',
]

/** The demo drawing with some damage: pieces cut out, doubled, or strange things put in. */
function damaged(source: string, random: () => number): string {
  let text = source
  for (let k = 0; k < 1 + random() * 3; k++) {
    const at = Math.floor(random() * text.length)
    const length = Math.floor(random() * 30)
    const kind = random()
    if (kind < 0.4) text = text.slice(0, at) + text.slice(at + length)
    else if (kind < 0.7) text = text.slice(0, at) + INSERTS[Math.floor(random() * INSERTS.length)]! + text.slice(at)
    else text = text.slice(0, at) + text.slice(at, at + length) + text.slice(at)
  }
  return text
}

test('two hundred damaged drawings are read soundly or refused in one sentence', () => {
  const random = seededRandom(11)
  const source = demoSvg()
  let read = 0
  for (let round = 0; round < 200; round++) {
    try {
      parsePuppet(importSvg(damaged(source, random), 'x').puppet)
      read++
    } catch (error) {
      expect(error).toBeInstanceOf(FormatError)
      expect((error as Error).message).toMatch(/^[A-Z].*\.$/s)
    }
  }
  expect(read).toBeGreaterThan(20)
})
