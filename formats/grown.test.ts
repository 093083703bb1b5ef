/** Files that ask for more than any machine can do, and damaged ones: read in part or refused in one sentence, nothing else. */
import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { parsePuppet } from '@marionette/core/puppet/invariants'
import { readPuppetFile } from './read'
import { readWav } from './sound/wav'
import { damagedOnes } from './test/grown/damage'
import { grownFiles } from './test/grown/files'
import { FormatError } from './warnings'

const SENTENCE = /^\P{Ll}.{5,}\.$/su

describe('a small file that asks for much', () => {
  test.each(grownFiles(0.05).map((f) => [f.name, f] as const))('%s', (_, { name, bytes }) => {
    try {
      parsePuppet(readPuppetFile(bytes(), name).puppet)
    } catch (error) {
      expect(error).toBeInstanceOf(FormatError)
      expect((error as Error).message).toMatch(SENTENCE)
    }
  })

  test('a filter that doubles its steps is left out with a word, the drawing stays', () => {
    const [filter] = grownFiles(0.05)
    const { puppet, warnings } = readPuppetFile(filter!.bytes(), 'filter.svg')
    expect(Object.values(puppet.parts).every((p) => p.effect === null)).toBe(true)
    expect(warnings.map((w) => w.message)).toContainEqual(expect.stringContaining('cannot be painted'))
  })
})

describe('style sheets', () => {
  test('many rules are found by what they ask for, above the element as well', () => {
    const rules = `#one > rect { fill: #010203 } .two rect.three { fill: #040506 } g + g rect { fill: #070809 } .none rect { fill: red }`
    const body = `<g id="one"><rect id="a" width="5" height="5"/></g><g><rect id="b" width="5" height="5"/></g><g class="x two"><g><rect id="c" class="three" width="5" height="5"/></g></g>`
    const text = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><style>${rules}</style>${body}</svg>`
    const { puppet } = readPuppetFile(new TextEncoder().encode(text), 'x.svg')
    const colours = Object.values(puppet.drawings).flatMap((d) => d.shapes.map((s) => s.ink?.paint.kind === 'flat' && s.ink.paint.colour))
    expect(new Set(colours)).toEqual(new Set(['#010203', '#070809', '#040506']))
  })
})

describe('damaged sound', () => {
  test('is refused in one sentence, or what is left of it is read', () => {
    const spoken = new Uint8Array(readFileSync(new URL('./sound/spoken.wav', import.meta.url)))
    for (const bytes of damagedOnes(spoken, 300, 3, 64)) {
      try {
        expect(readWav(bytes, 'spoken.wav').samples.every((x) => Math.abs(x) <= 1)).toBe(true)
      } catch (error) {
        expect(error).toBeInstanceOf(FormatError)
        expect((error as Error).message).toMatch(/^“spoken\.wav” .*\.$/)
      }
    }
  })
})
