/** OpenRaster 0.0.6: a zip of PNG layers with `stack.xml`, which lists them from top to bottom. */
import { BlendMode } from '@marionette/core/puppet/schema'
import { checkCount, cleanName, DEEPEST, nameWarnings, type Layer, type LayeredFile, type PixelLayer } from '../layers/layers'
import { checkCanvas, decodePng, isPlainPng, MOST_PIXELS } from '../pixels'
import { parseTree, type SvgElement } from '../svg/tree'
import { decodeText } from '../text'
import { FormatError, type Warning } from '../warnings'
import type { Zip } from '../zip'

const LARGEST_STACK = 32 * 1024 * 1024
/** Most that a layer's PNG may unpack to inside the zip: its pixels stored without any compression, and some more. */
const LARGEST_LAYER = 5 * MOST_PIXELS

export const isOpenRaster = (zip: Zip): boolean => zip.names.has('stack.xml')

/** Reads the structure; pixels are unpacked layer by layer later. Throws FormatError. */
export function readOpenRaster(zip: Zip): LayeredFile {
  const source = zip.read('stack.xml', LARGEST_STACK)
  if (!source) throw new FormatError('This zip file is no OpenRaster picture: it has no stack.xml.')
  const image = parseTree(decodeText(source), { elements: 100_000, depth: DEEPEST + 4 })
  if (image.name !== 'image') throw new FormatError(`stack.xml should begin with <image>, but begins with <${image.name.slice(0, 60)}>.`)
  const [width, height] = [Number(image.attributes['w']), Number(image.attributes['h'])]
  checkCanvas('The canvas', width, height)
  const stack = image.children.find((c) => c.name === 'stack')
  if (!stack) throw new FormatError('stack.xml lists no layers: it has no <stack>.')
  const reader = new StackReader(zip)
  checkCount(reader.count(stack))
  const layers = reader.layers(stack)
  return { width, height, layers, guides: [], warnings: reader.warnings }
}

class StackReader {
  readonly warnings: Warning[] = []

  constructor(private readonly zip: Zip) {}

  count(stack: SvgElement): number {
    return stack.children.reduce((sum, c) => sum + 1 + (c.name === 'stack' ? this.count(c) : 0), 0)
  }

  /** Layers of a stack, bottom to top. */
  layers(stack: SvgElement): Layer[] {
    const out: Layer[] = []
    for (const element of [...stack.children].reverse()) {
      if (element.name === 'layer') out.push(this.pixels(element))
      else if (element.name === 'stack') out.push(this.group(element))
      else this.warn(element, `<${element.name.slice(0, 40)}> is not understood and was left out`)
    }
    return out
  }

  private warn(element: SvgElement, message: string): void {
    const name = cleanName(element.attributes['name'] ?? '', '')
    this.warnings.push({ code: 'openraster', place: name === '' ? `stack.xml, line ${element.line}` : `layer "${name}"`, message })
  }

  private base(element: SvgElement, fallback: string): Omit<PixelLayer, 'kind' | 'x' | 'y' | 'load'> {
    const a = element.attributes
    const name = cleanName(a['name'] ?? '', fallback)
    this.warnings.push(...nameWarnings(a['name'] ?? '', `layer "${name.slice(0, 40)}…"`))
    const { blend, clipped } = this.operator(element)
    return {
      key: a['uuid'] ?? a['id'] ?? null,
      name,
      visible: a['visibility'] !== 'hidden',
      locked: a['edit-locked'] === 'true',
      opacity: this.fraction(element, 'opacity'),
      blend,
      clipped,
      mask: null,
    }
  }

  private fraction(element: SvgElement, name: string): number {
    const written = element.attributes[name]
    if (written === undefined) return 1
    const value = Number(written)
    if (Number.isFinite(value)) return Math.min(1, Math.max(0, value))
    this.warn(element, `its ${name} "${written.slice(0, 20)}" is no number and was read as 1`)
    return 1
  }

  /** Composite operators: blend modes as they are, atop as clipping; others are named and laid over plainly. */
  private operator(element: SvgElement): { blend: BlendMode; clipped: boolean } {
    const written = element.attributes['composite-op'] ?? 'svg:src-over'
    const name = written.replace(/^[\w-]+:/, '')
    if (name === 'src-over') return { blend: 'normal', clipped: false }
    if (name === 'src-atop') return { blend: 'normal', clipped: true }
    const known = BlendMode.safeParse(name === 'plus' ? 'plus-lighter' : name)
    if (!known.success) this.warn(element, `its composite operator "${written.slice(0, 40)}" is not known here; it is laid over plainly`)
    return { blend: known.data ?? 'normal', clipped: false }
  }

  private group(element: SvgElement): Layer {
    const isolated = element.attributes['isolation'] !== 'auto'
    return { kind: 'group', ...this.base(element, 'Group'), isolated, children: this.layers(element) }
  }

  private pixels(element: SvgElement): Layer {
    const base = this.base(element, 'Layer')
    const src = element.attributes['src'] ?? ''
    if (!this.zip.names.has(src))
      throw new FormatError(
        `The file is damaged: the picture "${src.slice(0, 80)}" of the layer "${base.name.slice(0, 60)}" is missing in it.`,
      )
    return {
      kind: 'pixels',
      ...base,
      x: this.whole(element, 'x'),
      y: this.whole(element, 'y'),
      load: () => {
        const bytes = this.zip.read(src, LARGEST_LAYER)!
        const pixels = decodePng(bytes, `The picture of the layer "${base.name.slice(0, 60)}"`)
        return { pixels, bytes: isPlainPng(bytes) ? bytes : null }
      },
    }
  }

  private whole(element: SvgElement, name: 'x' | 'y'): number {
    const written = element.attributes[name] ?? '0'
    const value = Number(written)
    if (Number.isFinite(value) && Math.abs(value) < 1e6) return Math.round(value)
    this.warn(element, `its ${name} "${written.slice(0, 20)}" is no place and was read as 0`)
    return 0
  }
}
