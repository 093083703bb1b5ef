import { expect, test } from 'vitest'
import { parsePuppet } from '@marionette/core/puppet/invariants'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { demoSvg } from '@marionette/demo/demos'
import { CORPUS } from '../../e2e/corpus'
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

/** What belongs elsewhere: references that make circles, sheets that apply to everything. */
const MISPLACED = [
  ...INSERTS,
  ' clip-path="url(#two)"',
  ' mask="url(#m)" filter="url(#soft)"',
  '<style>*{mask:url(#m)}</style>',
  ' fill="url(#dots)" marker-mid="url(#dot)"',
]

/** A drawing with some damage: pieces cut out, doubled, or strange things put in. */
function damaged(source: string, random: () => number, inserts: readonly string[]): string {
  let text = source
  for (let k = 0; k < 1 + random() * 3; k++) {
    const at = Math.floor(random() * text.length)
    const length = Math.floor(random() * 30)
    const kind = random()
    if (kind < 0.4) text = text.slice(0, at) + text.slice(at + length)
    else if (kind < 0.7) text = text.slice(0, at) + inserts[Math.floor(random() * inserts.length)]! + text.slice(at)
    else text = text.slice(0, at) + text.slice(at, at + length) + text.slice(at)
  }
  return text
}

/** Reads a damaged drawing; tells whether it was read. Anything but a sound puppet or one sentence fails. */
function survives(source: string): boolean {
  try {
    parsePuppet(importSvg(source, 'x').puppet)
    return true
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError)
    expect((error as Error).message).toMatch(/^[A-Z].*\.$/s)
    return false
  }
}

test('three hundred damaged drawings are read soundly or refused in one sentence', () => {
  const random = seededRandom(11)
  const source = demoSvg()
  const read = Array.from({ length: 300 }, () => survives(damaged(source, random, INSERTS))).filter(Boolean)
  expect(read.length).toBeGreaterThan(20)
})

test('so are drawings that use all that is read, each damaged twenty times', () => {
  const random = seededRandom(5)
  const sources = Object.values(CORPUS)
  const read = sources.flatMap((source) => Array.from({ length: 20 }, () => survives(damaged(source, random, MISPLACED)))).filter(Boolean)
  expect(read.length).toBeGreaterThan(sources.length)
})
