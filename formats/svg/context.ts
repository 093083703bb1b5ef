/** What all parts of the importer share: the file, its styles, what was found, and what is being built. */
import type { IdSource } from '@marionette/core/kernel/ids'
import type { Affine, Drawing, Part, Shape, Vec } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply, translation } from '@marionette/core/maths/geometry/affine'
import { emptyBounds, pathBounds, unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { FormatError, type Warning } from '../warnings'
import { parseLength, parseTransform } from './numbers'
import { Cascade, inheritable, INITIAL_STYLE, type Style } from './style'
import { readStyleSheet } from './stylesheet'
import { countOf, elementsById, placeOf, type SvgElement } from './tree'

/** What percentages are of. */
export interface ViewSize {
  readonly width: number
  readonly height: number
}

/** What an element inherits from where it stands. */
export interface Scope {
  readonly style: Style
  readonly view: ViewSize
  /** For the places of warnings. */
  readonly toCanvas: Affine
  /** Whether only the area of shapes counts, as in a clip path. */
  readonly area: boolean
}

/** How often pieces may be repeated besides the elements that a drawing has. */
const MOST_REPEATED = 30_000
const MOST_WARNINGS = 500

export class Context {
  readonly cascade: Cascade
  readonly parts: Part[] = []
  /** Map of each part to its parent, about its origin. */
  readonly maps = new Map<string, Affine>()
  /** Pivots that the file gives, in the space of the part's parent. */
  readonly pivots = new Map<string, Vec>()
  /** Parts whose name a person gave. */
  readonly named = new Set<string>()
  readonly drawings = new Map<string, Drawing>()
  readonly assets = new Map<string, Uint8Array>()
  private readonly found: Warning[] = []
  private unlisted = 0
  private spent = 0
  private readonly allowed: number
  private readonly byId: ReadonlyMap<string, SvgElement>
  private readonly following = new Set<SvgElement>()
  private readonly placeStyles = new WeakMap<SvgElement, Style>()
  private readonly reported = new WeakSet<SvgElement>()

  constructor(
    root: SvgElement,
    readonly ids: IdSource,
  ) {
    this.byId = elementsById(root)
    this.allowed = MOST_REPEATED + countOf(root)
    const sheet = readStyleSheet(root)
    this.cascade = new Cascade(sheet)
    for (const { element, message } of sheet.problems) this.warn('svg.style', element, message)
  }

  warn(code: string, element: SvgElement, message: string, bounds?: Bounds): void {
    if (this.found.length >= MOST_WARNINGS) this.unlisted++
    else this.found.push({ code, place: placeOf(element), message, ...(bounds && { bounds }) })
  }

  get warnings(): Warning[] {
    const more = this.unlisted
    if (more === 0) return this.found
    return [...this.found, { code: 'svg.more', place: 'further on', message: `${more} more findings are not listed` }]
  }

  /** Counts an element that is read. Throws FormatError where repetitions go beyond all bounds. */
  spend(): void {
    if (++this.spent > this.allowed) throw new FormatError(`The drawing repeats its pieces more than ${MOST_REPEATED} times.`)
  }

  /** Computed style; what cannot be drawn as meant is listed, once for each element. */
  styleOf(element: SvgElement, inherited: Style): Style {
    if (!this.reported.has(element)) {
      this.reported.add(element)
      for (const { property, value } of this.cascade.unsupported(element))
        this.warn('svg.property', element, `${property}: ${value.slice(0, 60)} is not drawn`)
      const handler = Object.keys(element.attributes).find((name) => /^on[a-z]+$/i.test(name))
      if (handler) this.warn('svg.script', element, `its ${handler} is a script, and scripts are never run`)
    }
    return this.cascade.compute(element, inherited)
  }

  /** Style that the children of an element inherit where it stands in the file: for what is used from elsewhere. */
  placeStyle(element: SvgElement): Style {
    let style = this.placeStyles.get(element)
    if (!style) {
      const above = element.parent ? this.placeStyle(element.parent) : INITIAL_STYLE
      style = inheritable(this.cascade.compute(element, above))
      this.placeStyles.set(element, style)
    }
    return style
  }

  byReference(id: string): SvgElement | undefined {
    return this.byId.get(id)
  }

  /** The element that an href points to inside the file; null, with a warning, where there is none. */
  target(element: SvgElement): SvgElement | null {
    const href = hrefOf(element)?.trim() ?? ''
    if (!href.startsWith('#')) {
      if (href !== '') this.warn('svg.external', element, `it refers to "${href.slice(0, 60)}" outside of the file, and nothing is fetched`)
      return null
    }
    const target = this.byId.get(decodeFragment(href.slice(1)))
    if (!target) this.warn('svg.reference', element, `it refers to "${href.slice(1, 60)}", which is not in the file`)
    return target ?? null
  }

  /** The element of a `url(#id)`; null, with a warning, where there is none of that kind. */
  reference(element: SvgElement, property: string, text: string, kind: string): SvgElement | null {
    const id = referenceOf(text)
    const target = id === null ? undefined : this.byId.get(id)
    if (target?.name === kind) return target
    const what =
      id === null ? `is "${text.slice(0, 60)}", which is not understood` : `refers to "${id.slice(0, 60)}", which is not in the file`
    this.warn('svg.reference', element, `its ${property} ${what}`)
    return null
  }

  /** Reads what an element refers to; null, with a warning, where it refers to itself in the end. */
  follow<T>(element: SvgElement, target: SvgElement, read: () => T): T | null {
    if (this.following.has(target) || this.following.size >= 64) {
      this.warn('svg.reference', element, 'it refers to itself in a circle')
      return null
    }
    this.following.add(target)
    try {
      return read()
    } finally {
      this.following.delete(target)
    }
  }

  /** Map of an element's own transform, about its origin of transformation. */
  transformOf(element: SvgElement, style: Style, view: ViewSize): Affine {
    const written = style['transform'] === 'none' ? element.attributes['transform'] : style['transform']!.replace(/(px|deg)/g, '')
    const transform = parseTransform(written)
    if (!transform) this.warn('svg.transform', element, `the transform "${written?.slice(0, 60)}" cannot be read and was left out`)
    if (!transform || transform === IDENTITY) return IDENTITY
    const [x, y] = this.originOf(element, style, view)
    return x === 0 && y === 0 ? transform : multiply(translation(x, y), multiply(transform, translation(-x, -y)))
  }

  private originOf(element: SvgElement, style: Style, view: ViewSize): [number, number] {
    const written = style['transform-origin']!
    if (/^0(px|%)? 0(px|%)?$/.test(written)) return [0, 0]
    if (style['transform-box'] !== 'view-box') {
      this.warn('svg.transform', element, `transform-box: ${style['transform-box']} is not followed`)
      return [0, 0]
    }
    const [x = 'center', y = 'center'] = written.split(/\s+/)
    const words: Record<string, string> = { left: '0%', top: '0%', center: '50%', right: '100%', bottom: '100%' }
    return [parseLength(words[x] ?? x, view.width) ?? 0, parseLength(words[y] ?? y, view.height) ?? 0]
  }

  /** Bounds of all that a part shows, without lines, in the part's own space; masks do not count. */
  geometryOf(part: Part): Bounds {
    const out = emptyBounds()
    const within = new Map<string, Affine>([[part.id, IDENTITY]])
    // A part stands before all that is in it, masks included; when it is asked for, it is among the last.
    const parts = this.parts.slice(this.parts.lastIndexOf(part))
    const masks = new Set(parts.flatMap((p) => p.masks.map((m) => m.shape)))
    for (const inner of parts) {
      const above = inner === part ? null : inner.parent === null ? undefined : within.get(inner.parent)
      if (above === undefined || (inner !== part && masks.has(inner.id))) continue
      const map = above === null ? IDENTITY : multiply(above, this.maps.get(inner.id)!)
      within.set(inner.id, map)
      for (const id of Object.values(inner.art)) for (const shape of this.drawings.get(id)!.shapes) unite(out, shapeBounds(shape, map))
    }
    return out
  }
}

/** Bounds of a shape's outline under a map. */
function shapeBounds(shape: Shape, map: Affine): Bounds {
  const out = emptyBounds()
  for (const path of shape.paths) pathBounds(map === IDENTITY ? path : mapPath(path, map), out)
  return out
}

export const hrefOf = (element: SvgElement): string | undefined => element.attributes['href'] ?? element.attributes['xlink:href']

function decodeFragment(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

/** The id in `url(#id)`, or null where it is something else. */
export function referenceOf(text: string): string | null {
  const match = /^url\(\s*(['"]?)#(.*?)\1\s*\)/.exec(text)
  return match ? decodeFragment(match[2]!) : null
}
