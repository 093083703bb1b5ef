/** Small files that ask for more than any machine can do: each is read in part or refused, soon and with a sentence. */
import { strToU8, zipSync } from 'fflate'
import { encode } from 'fast-png'

export interface GrownFile {
  readonly name: string
  readonly bytes: () => Uint8Array
}

const svg = (inside: string, more = ''): Uint8Array =>
  strToU8(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100" height="100"${more}>${inside}</svg>`,
  )
const times = (n: number, make: (i: number) => string): string => Array.from({ length: n }, (_, i) => make(i)).join('')

/** Each of the levels names the one before twice. */
const doubling = (levels: number, make: (level: number, before: string) => string): string =>
  times(levels, (level) => make(level, `l${level - 1}`))

/** A PNG of one colour without its pixels in memory: rows of zeros pack to nothing. */
const blank = (width: number, height: number): Uint8Array =>
  encode({ width, height, data: new Uint8Array(width * height * 4), channels: 4, depth: 8 }, { zlib: { level: 9 } })

function blankLayers(layers: number, width: number, height: number): Uint8Array {
  const png = blank(width, height)
  const stack = times(layers, (i) => `<layer name="Layer ${i}" src="data/${i}.png" x="0" y="0"/>`)
  const files: Record<string, Uint8Array> = {
    mimetype: strToU8('image/openraster'),
    'stack.xml': strToU8(`<image w="${width}" h="${height}"><stack>${stack}</stack></image>`),
  }
  for (let i = 0; i < layers; i++) files[`data/${i}.png`] = png
  return zipSync(files, { level: 9 })
}

/** The file of the report, small enough to be made in a test where `scale` is small. */
export const grownFiles = (scale: number): readonly GrownFile[] => [
  {
    name: 'filter.svg',
    bytes: () =>
      svg(
        `<filter id="f"><feGaussianBlur in="SourceGraphic" stdDeviation="1" result="l0"/>${times(25, (i) => `<feBlend in="l${i}" in2="l${i}" mode="multiply" result="l${i + 1}"/>`)}</filter><rect width="9" height="9" filter="url(#f)"/>`,
      ),
  },
  {
    name: 'masks.svg',
    bytes: () =>
      svg(
        `<mask id="l-1"><rect width="9" height="9" fill="#fff"/></mask>${doubling(25, (n, before) => `<mask id="l${n}"><rect width="9" height="9" fill="#fff" mask="url(#${before})"/><rect y="3" width="9" height="9" fill="#fff" mask="url(#${before})"/></mask>`)}<rect width="9" height="9" mask="url(#l24)"/>`,
      ),
  },
  {
    name: 'clips.svg',
    bytes: () =>
      svg(
        `<clipPath id="l-1"><rect width="9" height="9"/></clipPath>${doubling(25, (n, before) => `<clipPath id="l${n}"><rect width="9" height="9" clip-path="url(#${before})"/><rect y="3" width="9" height="9" clip-path="url(#${before})"/></clipPath>`)}<rect width="9" height="9" clip-path="url(#l24)"/>`,
      ),
  },
  {
    name: 'uses.svg',
    bytes: () =>
      svg(
        `<defs><g id="l-1"><rect width="9" height="9"/></g>${doubling(25, (n, before) => `<g id="l${n}"><use href="#${before}"/><use href="#${before}" x="1"/></g>`)}</defs><use href="#l24"/>`,
      ),
  },
  {
    name: 'patterns.svg',
    bytes: () =>
      svg(
        `<pattern id="l-1" width="9" height="9" patternUnits="userSpaceOnUse"><rect width="9" height="9"/></pattern>${doubling(25, (n, before) => `<pattern id="l${n}" width="9" height="9" patternUnits="userSpaceOnUse"><rect width="5" height="9" fill="url(#${before})"/><rect x="5" width="4" height="9" fill="url(#${before})"/></pattern>`)}<rect width="9" height="9" fill="url(#l24)"/>`,
      ),
  },
  {
    name: 'colour.svg',
    bytes: () =>
      svg(
        `<rect width="9" height="9" fill="#${'1'.repeat(80_000 * scale)}"/><rect width="9" height="9" fill="rgb(${'9'.repeat(80_000 * scale)},1,1)"/><rect width="9" height="9" fill="rgb(${'1 '.repeat(40_000 * scale)})"/>`,
      ),
  },
  {
    name: 'styles.svg',
    bytes: () =>
      svg(
        `<style>${times(5000 * scale, (i) => `.a${i} g .b${i}, #c${i} > rect { fill: #123; stroke: red }`)}</style>${times(5000 * scale, (i) => `<g class="a${i}" id="c${i}"><rect class="b${i}" width="9" height="9"/></g>`)}`,
      ),
  },
  {
    name: 'nested.svg',
    bytes: () => svg(`${'<g id="a">'.repeat(20_000 * scale)}<rect width="9" height="9"/>${'</g>'.repeat(20_000 * scale)}`),
  },
  {
    name: 'deep.svg',
    bytes: () => svg(`${times(900, (i) => `<g id="level ${i}x" opacity="0.99">`)}<rect width="9" height="9"/>${'</g>'.repeat(900)}`),
  },
  {
    name: 'markers.svg',
    bytes: () =>
      svg(
        `<marker id="m" markerWidth="3" markerHeight="3">${times(100, (i) => `<path d="M0 0l1 ${i % 3}"/>`)}</marker><path marker-mid="url(#m)" fill="none" stroke="#000" d="M0 0${'l1 1'.repeat(100_000 * scale)}"/>`,
      ),
  },
  { name: 'dashes.svg', bytes: () => svg(`<path stroke="#000" stroke-dasharray="${'1 '.repeat(200_000 * scale)}" d="M0 0H9"/>`) },
  {
    name: 'numbers.svg',
    bytes: () =>
      svg(
        `<path d="M1e300 1e300L-1e308 5e-324 1e200 0z"/><g transform="scale(1e200)"><rect width="1e200" height="3"/></g><g transform="scale(1e-320) scale(1e320)"><rect width="9" height="9"/></g>`,
      ),
  },
  {
    name: 'attributes.svg',
    bytes: () => svg(`<path d="${'M0 0 '.repeat(500_000 * scale)}"/><text>${'x'.repeat(1_000_000 * scale)}</text>`),
  },
  { name: 'transforms.svg', bytes: () => svg(`<rect width="9" height="9" transform="${'rotate(1) '.repeat(100_000 * scale)}"/>`) },
  { name: 'blank.ora', bytes: () => blankLayers(12, 16384 / (scale < 1 ? 8 : 1), 8192 / (scale < 1 ? 8 : 1)) },
  {
    name: 'big.puppet',
    bytes: () =>
      zipSync(
        { 'puppet.json': strToU8(`{"format":"eager-marionette/puppet","version":11,"x":"${' '.repeat(200_000_000 * scale)}"}`) },
        { level: 9 },
      ),
  },
  {
    name: 'keys.puppet',
    bytes: () =>
      zipSync(
        {
          'puppet.json': strToU8(
            `{"format":"eager-marionette/puppet","version":11,"pose":{${times(1_000_000 * scale, (i) => `${i ? ',' : ''}"bone/b${i}/x":1`)}}}`,
          ),
        },
        { level: 9 },
      ),
  },
  {
    name: 'entities.svg',
    bytes: () =>
      strToU8(
        `<!DOCTYPE svg [${times(200, (i) => `<!ENTITY e${i} "${'x'.repeat(290)}">`)}]><svg xmlns="http://www.w3.org/2000/svg"><text>${times(20_000 * scale, (i) => `&e${i % 200};`)}</text></svg>`,
      ),
  },
]
