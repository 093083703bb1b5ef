import { strToU8, zipSync } from 'fflate'
import { describe, expect, test } from 'vitest'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { readPuppetFile } from '../read'
import { ora, png, psd } from '../test/bytes'
import { FormatError } from '../warnings'

const read = (bytes: Uint8Array, name = 'a.ora') => readPuppetFile(bytes, name, { ids: sequentialIds('t') })
const image = (layers: string, size = 'w="10" h="10"'): string => `<image ${size}><stack>${layers}</stack></image>`
const small = png(4, 4, [1, 2, 3, 255])
const one = image('<layer name="A" src="a.png"/>')

/** A PNG whose header says another size. */
function resized(width: number, height: number): Uint8Array {
  const out = small.slice()
  new DataView(out.buffer).setUint32(16, width)
  new DataView(out.buffer).setUint32(20, height)
  return out
}

/** A zip whose directory says another unpacked size for every entry. */
function withSizes(zip: Uint8Array, size: number): Uint8Array {
  const out = zip.slice()
  const view = new DataView(out.buffer)
  for (let at = 0; at + 46 < out.length; at++) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, size, true)
  return out
}

describe('bad input: one clear sentence each', () => {
  const many = `<layer name="A" src="a.png"/>`.repeat(10_000)
  const cases: [string, () => Uint8Array, RegExp][] = [
    ['a broken zip', () => ora(one, { 'a.png': small }).slice(0, 120), /damaged|cannot be unpacked/],
    ['a zip of something else', () => zipSync({ 'readme.txt': strToU8('hello') }), /no puppet archive/],
    ['a zip bomb', () => withSizes(ora(one, { 'a.png': small }), 0xfffffff0), /more than is read/],
    ['sizes in the directory that are too small', () => withSizes(ora(one, { 'a.png': small }), 9), /damaged|well-formed/],
    ['a stack that is no XML', () => ora('<image'), /not well-formed/],
    ['a stack of something else', () => ora('<html/>'), /begin with <image>/],
    ['no stack', () => ora('<image w="3" h="3"/>'), /no <stack>/],
    ['a layer whose picture is missing', () => ora(one), /"a.png" of the layer "A" is missing/],
    ['a picture that is no PNG', () => ora(one, { 'a.png': strToU8('hello') }), /no PNG picture/],
    ['a picture cut off', () => ora(one, { 'a.png': small.slice(0, 50) }), /damaged/],
    ['a picture that says another size', () => ora(one, { 'a.png': resized(400, 4) }), /damaged/],
    ['a picture of a size beyond all bounds', () => ora(one, { 'a.png': resized(60000, 60000) }), /60000 by 60000 pixels; the limit is/],
    ['a canvas of 30000 by 30000', () => ora(image('', 'w="30000" h="30000"')), /canvas is 30000 by 30000 pixels; the limit is 16384/],
    ['a canvas without a size', () => ora(image('', '')), /no size that makes sense/],
    ['10,000 layers', () => ora(image(many), { 'a.png': small }), /10000 layers; the limit is 5000/],
    ['groups in groups without end', () => ora(image('<stack>'.repeat(300) + '</stack>'.repeat(300))), /nested deeper/],
    [
      'a PSD canvas of 30000 by 30000',
      () => psd(1, 1, []).map((b, i) => (i >= 14 && i < 22 ? [0, 0, 0x75, 0x30][(i - 14) % 4]! : b)),
      /30000 by 30000/,
    ],
    ['a PSD that ends at once', () => psd(1, 1, []).slice(0, 20), /cut off/],
    ['a PSD of 32 bits', () => psd(1, 1, []).map((b, i) => (i === 23 ? 32 : b)), /32 bits/],
  ]
  test.each(cases)('%s', (_, make, words) => {
    expect(() => read(make())).toThrow(FormatError)
    expect(() => read(make())).toThrow(words)
  })

  test('names with control characters and of 5,000 letters come in cleaned, and it is said', () => {
    const long = 'x'.repeat(5000)
    const stack = image(`<layer name="a&#9;b&#x202e;c" src="a.png"/><layer name="${long}" src="a.png"/><layer name="" src="a.png"/>`)
    const { puppet, warnings } = read(ora(stack, { 'a.png': small }))
    const names = puppet.parts[puppet.root]!.children.map((id) => puppet.parts[id]!.name)
    expect(names).toEqual(['Layer', 'x'.repeat(200), 'a b c'])
    expect(warnings.map((w) => w.message)).toContain('its name of 5000 letters was cut to 200')
  })

  test('a layer without any opaque pixel stays as an empty part and is named', () => {
    const { puppet, warnings } = read(ora(one, { 'a.png': png(4, 4, [9, 9, 9, 0]) }))
    expect(Object.values(puppet.parts).find((p) => p.name === 'A')).toMatchObject({ content: { kind: 'group' }, children: [] })
    expect(warnings[0]).toMatchObject({ place: 'layer "A"', message: 'is wholly transparent' })
  })
})

describe('damaged files of every kind', () => {
  const originals: Record<string, Uint8Array> = {
    'OpenRaster.ora': ora(image('<stack name="G"><layer name="A" src="a.png" opacity="0.5"/></stack><layer name="B" src="a.png" x="3"/>'), {
      'a.png': small,
    }),
    'layers.psd': psd(12, 12, [
      { name: 'A', box: [1, 1, 4, 4], colour: [1, 2, 3, 255] },
      { name: '</Group>', section: 3 },
      { name: 'B', box: [2, 2, 4, 4], colour: [9, 2, 3, 128], clipped: true },
      { name: 'G', section: 1 },
    ]),
    'picture.png': png(9, 7, (x) => [x, x, x, 200]),
  }

  test.each(Object.keys(originals))('%s: a sound puppet or one sentence, whatever is changed in it', (name) => {
    let state = 12345
    const random = (below: number): number => (state = (state * 48271) % 2147483647) % below
    const original = originals[name]!
    for (let round = 0; round < 250; round++) {
      const bytes = original.slice(0, round % 5 === 0 ? 1 + random(original.length) : original.length)
      for (let n = 1 + random(6); n > 0; n--) bytes[random(bytes.length)] = random(256)
      try {
        expect(brokenInvariants(read(bytes, name).puppet)).toEqual([])
      } catch (error) {
        expect(error, `round ${round}`).toBeInstanceOf(FormatError)
        expect((error as Error).message).not.toContain('\n')
      }
    }
  })
})
