/** Documents that would keep a machine busy for good, or break what walks them: each is refused with a sentence. */
import { describe, expect, test } from 'vitest'
import { everything } from '../test/commands/everything'
import { PuppetError } from './invariants'
import { readPuppet } from './migrate'
import type { Effect } from '../layering/records'
import type { Part, Puppet } from './schema'
import { newPart } from '../parts/new'

type Break = (puppet: Puppet) => void
const part = (id: string, parent: string | null, more: Partial<Part> = {}): Part => ({ ...newPart(id, id), parent, ...more })

const doublingEffect = (steps: number): Effect => ({
  region: null,
  steps: [
    { step: 'blur', of: 'source', x: 1, y: 1, linear: true },
    ...Array.from({ length: steps }, (_, i) => ({ step: 'blend' as const, of: i, with: i, how: 'multiply' as const, linear: true })),
  ],
})

/** A pile of groups in which each is masked twice by the next. */
const doublingMasks: Break = (p) => {
  for (let level = 0; level < 25; level++)
    for (const side of ['a', 'b']) {
      const mask =
        level === 24
          ? []
          : [
              { shape: `m${level + 1}a`, keep: 'inside' as const, by: 'area' as const },
              { shape: `m${level + 1}b`, keep: 'inside' as const, by: 'area' as const },
            ]
      const id = `m${level}${side}`
      p.parts[id] = part(id, p.root, { masks: mask })
      p.parts[p.root]!.children.push(id)
    }
}

const nested: Break = (p) => {
  let above = p.root
  for (let i = 0; i < 20_000; i++) {
    const id = `n${i}`
    p.parts[id] = part(id, above)
    p.parts[above]!.children.push(id)
    above = id
  }
}

const BREAKS: readonly (readonly [string, RegExp, Break])[] = [
  [
    'a part that is its own parent',
    /parent|listed twice/,
    (p) => Object.assign(p.parts['face']!, { parent: 'face', children: ['face', 'eye', 'lid'] }),
  ],
  [
    "two parts that are each other's parents",
    /hangs from nothing|parent/,
    (p) => {
      Object.assign(p.parts, { one: part('one', 'two', { children: ['two'] }), two: part('two', 'one', { children: ['one'] }) })
    },
  ],
  ['twins of each other', /which cannot be/, (p) => Object.assign(p.parts['hand']!, { twin: { of: 'twin-1', mirrored: true } })],
  [
    'rows of weights that are not in order',
    /not in order/,
    (p) => {
      const bind = p.parts['sleeve']!.bind
      if (bind?.kind === 'blended') [bind.field.starts[1], bind.field.starts[2]] = [bind.field.starts[2]!, bind.field.starts[1]!]
    },
  ],
  ['an effect that uses each step twice, 26 times', /so often/, (p) => (p.parts['eye']!.effect = doublingEffect(26))],
  ['masks that double at each of 25 levels', /so often/, doublingMasks],
  ['20,000 nested parts', /levels deep/, nested],
  [
    'a million pose keys',
    /more than 50000 values/,
    (p) => {
      for (let i = 0; i < 1e6; i++) p.pose[`bone/b${i}/x`] = 1
    },
  ],
  ['a colour of 80,000 digits', /#rrggbb/, (p) => (p.palette[0]!.colour = `#${'a'.repeat(80_000)}`)],
  ['a number that is no number any more', /expected number/, (p) => (p.parts['eye']!.home.x = NaN)],
  ['a number that is too large', /too large/, (p) => (p.parts['eye']!.home.scaleX = 1e200)],
  ['an id that two kinds share', /uses the id/, (p) => (p.controls[0]!.id = 'eye')],
]

describe('is refused in a sentence:', () => {
  test.each(BREAKS)('%s', (_, sentence, breaks) => {
    const puppet = structuredClone(everything())
    breaks(puppet)
    expect(() => readPuppet(puppet)).toThrow(PuppetError)
    expect(() => readPuppet(puppet)).toThrow(sentence)
  })

  test('a document of each version that has nothing but its number', () => {
    for (let version = 0; version <= 12; version++)
      for (const more of [{}, { parts: { a: null } }, { parts: [], views: {}, poses: 7 }])
        expect(() => readPuppet({ format: 'eager-marionette/puppet', version, ...more })).toThrow(PuppetError)
  })
})
