import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { IDENTITY, multiply, translation, turnAbout } from '@marionette/core/maths/geometry/affine'
import type { Affine } from '@marionette/core/puppet/schema'
import { parseLength, parseNumbers, parseTransform } from './numbers'
import { parseAlpha, parseColour } from './paint'
import { Cascade, INITIAL_STYLE } from './style'
import { readStyleSheet } from './stylesheet'
import { parseTree } from './tree'

describe('lengths and lists', () => {
  test.each([
    ['12', 12],
    [' 1e2px ', 100],
    ['.5in', 48],
    ['10mm', (10 * 96) / 25.4],
    ['3pt', 4],
    ['50%', 100],
    ['-4', -4],
  ])('%s', (text, px) => expect(parseLength(text, 200)).toBeCloseTo(px))

  test.each(['', 'auto', '12parsec', '1e12', 'NaN', 'Infinity', '5 5', undefined])('%s is none', (text) =>
    expect(parseLength(text)).toBeNull(),
  )

  test('percentages need something to be of', () => expect(parseLength('50%')).toBeNull())

  test('lists take any separators, and nothing else', () => {
    expect(parseNumbers('1,2 -3.5e1+4-.5')).toEqual([1, 2, -35, 4, -0.5])
    expect(parseNumbers('1 2 three')).toBeNull()
    expect(parseNumbers('1 1e300')).toBeNull()
  })
})

describe('transforms', () => {
  const part = fc.oneof(
    fc.tuple(fc.integer(), fc.integer()).map(([x, y]) => ({ text: `translate(${x % 99} , ${y % 99})`, map: translation(x % 99, y % 99) })),
    fc.integer({ min: -180, max: 180 }).map((a) => ({ text: `rotate(${a} 5 6)`, map: turnAbout(-a, { x: 5, y: 6 }) })),
    fc.integer({ min: 1, max: 5 }).map((k) => ({ text: `scale(${k})`, map: [k, 0, 0, k, 0, 0] as Affine })),
    fc.integer({ min: 1, max: 5 }).map((k) => ({ text: `matrix(1 0 ${k} 1 0 2)`, map: [1, 0, k, 1, 0, 2] as Affine })),
  )

  test('a list is the product of its parts, the last acting first', () => {
    fc.assert(
      fc.property(fc.array(part, { maxLength: 5 }), fc.constantFrom(' ', ',', ''), (parts, separator) => {
        const wanted = parts.reduce<Affine>((m, p) => multiply(m, p.map), IDENTITY)
        parseTransform(parts.map((p) => p.text).join(separator))!.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 6))
      }),
    )
  })

  test.each(['rotate(1 2)', 'scale()', 'spin(3)', 'translate(1', 'translate(a)', 'none of it'])('%s cannot be read', (text) => {
    expect(parseTransform(text)).toBeNull()
  })
})

describe('colours and styles', () => {
  test.each([
    ['RED', '#ff0000', 1],
    ['#abc', '#aabbcc', 1],
    ['rgba(0, 128, 0, .25)', '#008000', 0.25],
    ['hsl(240 100% 50%)', '#0000ff', 1],
    ['transparent', '#000000', 0],
  ])('%s', (text, colour, alpha) => expect(parseColour(text.toLowerCase())).toEqual({ colour, alpha }))

  test('opacities stay between none and all', () => {
    expect(['30%', '-1', '7', 'much'].map(parseAlpha)).toEqual([0.3, 0, 1, 1])
  })

  test('what a person wrote into the style attribute goes before attributes; inherit takes the parent’s', () => {
    const element = parseTree('<path fill="red" style="fill: inherit; stroke:BLUE; opacity:.5; nonsense: 1"/>')
    const cascade = new Cascade(readStyleSheet(element))
    const style = cascade.compute(element, { ...INITIAL_STYLE, fill: 'green' })
    expect(style).toMatchObject({ fill: 'green', opacity: '.5' })
    expect(style['stroke']!.toLowerCase()).toBe('blue')
    expect(cascade.unsupported(element).map((u) => u.property)).toEqual(['nonsense'])
  })
})
