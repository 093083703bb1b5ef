/** What people drop by mistake or on purpose: each is read or refused in bounded time, in words that help. */
import { describe, expect, test } from 'vitest'
import { parsePuppet } from '@marionette/core/puppet/invariants'
import { partsBelow } from '@marionette/core/parts/tree'
import { readPuppetFile } from '../read'
import { FormatError } from '../warnings'
import { importSvg } from './import'

const svg = (inside: string, attributes = ''): string => `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inside}</svg>`
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text)

function read(inside: string, attributes?: string) {
  const { puppet, warnings } = importSvg(svg(inside, attributes), 'bad')
  parsePuppet(puppet)
  return { puppet, warnings, parts: partsBelow(puppet, puppet.root).length - 1, codes: new Set(warnings.map((w) => w.code)) }
}

describe('numbers', () => {
  test.each(['NaN', 'Infinity', '1e308', '-1e400', '9999999999'])('%s as a coordinate', (number) => {
    const { codes } = read(
      `<path d="M0 0L5 5L${number} 4"/><rect x="${number}" width="5" height="5"/><circle r="${number}"/><g transform="translate(${number})"><rect width="5" height="5"/></g>`,
    )
    expect(codes).toContain('svg.outline')
    expect(codes).toContain('svg.transform')
  })

  test('sizes that are none, and art without any extent', () => {
    expect(
      read('<rect width="0" height="5"/><circle r="-3"/><path d="M5 5"/><line x1="3" x2="3" stroke="red"/>', 'width="0" height="0"').codes,
    ).toContain('svg.viewport')
    expect(read('<g transform="scale(0)"><rect width="9" height="9"/></g>').parts).toBeGreaterThan(0)
    expect(read('', 'width="1e9" viewBox="0 0 1e-9 1e9"').codes).toContain('svg.viewport')
  })
})

describe('much of it', () => {
  test('fifty thousand shapes are read, named and unnamed', () => {
    const shape = (i: number): string => `<path d="M${i % 500} ${Math.floor(i / 500)}h4v4z" fill="#a53"/>`
    const { puppet } = read(Array.from({ length: 50_000 }, (_, i) => shape(i)).join(''))
    expect(Object.values(puppet.drawings)[0]!.shapes).toHaveLength(50_000)
    expect(read(Array.from({ length: 5_000 }, (_, i) => shape(i).replace('<path', `<path id="piece ${i}x"`)).join('')).parts).toBe(5_000)
  }, 60_000)

  test('twenty thousand nested groups are refused in one sentence', () => {
    expect(() => read('<g>'.repeat(20_000) + '</g>'.repeat(20_000))).toThrow('nested deeper than 1000 groups')
    expect(read('<g>'.repeat(900) + '<rect width="5" height="5"/>' + '</g>'.repeat(900)).parts).toBe(900)
  })

  test('copies of copies of copies end', () => {
    const levels = Array.from({ length: 20 }, (_, i) => `<g id="l${i + 1}x">${`<use href="#l${i}x"/>`.repeat(10)}</g>`).join('')
    expect(() => read(`<defs><rect id="l0x" width="1" height="1"/>${levels}</defs><use href="#l20x"/>`)).toThrow(
      'repeats its pieces more than',
    )
  })

  test('findings are listed up to a number', () => {
    const { warnings } = read('<foreignObject/>'.repeat(2000))
    expect(warnings.length).toBeLessThan(600)
    expect(warnings.at(-2)!.message).toContain('more findings are not listed')
  })
})

describe('what is not run, fetched or expanded', () => {
  test('entities stand for plain text only', () => {
    const plain =
      '<!DOCTYPE svg [<!ENTITY fill "#ff0000"><!ENTITY ns "http://www.w3.org/2000/svg">]><svg xmlns="&ns;"><rect id="r" width="9" height="9" fill="&fill;"/></svg>'
    expect(JSON.stringify(importSvg(plain, 't').puppet.drawings)).toContain('#ff0000')
    const laughs = Array.from({ length: 9 }, (_, i) => `<!ENTITY l${i + 1} "${`&l${i};`.repeat(10)}">`).join('')
    expect(() => importSvg(`<!DOCTYPE svg [<!ENTITY l0 "ha">${laughs}]><svg><title>&l9;</title></svg>`, 't')).toThrow(FormatError)
    expect(() => importSvg('<!DOCTYPE svg [<!ENTITY f SYSTEM "file:///etc/passwd">]><svg><title>&f;</title></svg>', 't')).toThrow(
      'not well-formed',
    )
  })

  test('what refers to itself is left out and named', () => {
    const { codes } =
      read(`<pattern id="p" width="9" height="9"><rect width="9" height="9" fill="url(#p)"/></pattern><clipPath id="c" clip-path="url(#c)"><rect width="9" height="9"/></clipPath>
      <mask id="m"><rect width="9" height="9" mask="url(#m)"/></mask><symbol id="s"><use href="#s"/></symbol><marker id="k"><path d="M0 0h5" marker-end="url(#k)"/></marker>
      <rect width="20" height="20" fill="url(#p)"/><rect width="20" height="20" clip-path="url(#c)"/><rect width="20" height="20" mask="url(#m)"/><use href="#s"/><path d="M0 0h9" stroke="red" marker-end="url(#k)"/>`)
    expect(codes).toContain('svg.reference')
  })
})

describe('encodings', () => {
  const drawing = '<svg xmlns="http://www.w3.org/2000/svg"><g id="Bär"><rect width="5" height="5"/></g></svg>'
  const latin = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0))
  const wide = (text: string): Uint8Array =>
    Uint8Array.from([0xff, 0xfe, ...[...text].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8])])

  test.each([
    ['UTF-8', bytes(drawing)],
    ['UTF-8 with a mark', Uint8Array.from([0xef, 0xbb, 0xbf, ...bytes(drawing)])],
    ['Latin 1', latin(`<?xml version="1.0" encoding="ISO-8859-1"?>${drawing}`)],
    ['UTF-16', wide(drawing)],
  ])('%s', (_, file) => {
    expect(JSON.stringify(readPuppetFile(file, 'b.svg').puppet.parts)).toContain('Bär')
  })

  test('an encoding that is unknown, or a wrong one, is said', () => {
    expect(() => readPuppetFile(bytes('<?xml version="1.0" encoding="marsh-8"?><svg/>'), 'a.svg')).toThrow(
      '"marsh-8", an encoding that is not known here',
    )
    expect(() => readPuppetFile(latin(drawing), 'a.svg')).toThrow('not written in UTF-8')
  })
})
