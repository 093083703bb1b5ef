/**
 * SVG to parts and drawings.
 *
 * Each group becomes a part with its name, order, visibility and opacity; its transform becomes the home. Shapes
 * that carry a name of their own become parts as well; unnamed shapes beside each other share one drawing. A group
 * that holds nothing but unnamed shapes is one drawing part. What is not understood is listed, never dropped in
 * silence.
 */
import { FRONT_VIEW, newPart, newPuppet } from '@marionette/core/document/new'
import { sequentialIds, type IdSource } from '@marionette/core/document/ids'
import type { Affine, Drawing, Line, Part, Puppet, Shape } from '@marionette/core/document/schema'
import { drawingBounds, partsBelow, restMatrix } from '@marionette/core/document/tree'
import { run } from '@marionette/core/edit/command'
import { addArtwork, setHome, setPivot } from '@marionette/core/edit/parts'
import { apply, IDENTITY, invert, keepsAngles, multiply, placementOf } from '@marionette/core/geometry/affine'
import { emptyBounds, isEmpty, pathBounds, unite, type Bounds } from '@marionette/core/geometry/bounds'
import { mapPath } from '@marionette/core/geometry/path'
import { FormatError, type Warning } from '../warnings'
import { parseLength, parseNumbers, parseTransform } from './numbers'
import { outlineOf, SHAPE_ELEMENTS, type PointIds } from './outline'
import { parseAlpha, resolvePaint, type Colouring, type ViewSize } from './paint'
import { computeStyle, inheritable, INITIAL_STYLE, type Style } from './style'
import { elementsById, parseTree, placeOf, type SvgElement } from './tree'

export interface SvgImport {
  readonly puppet: Puppet
  readonly warnings: readonly Warning[]
}

/** Elements that hold definitions or descriptions, not artwork. */
const SILENT = new Set(['title', 'desc', 'metadata', 'defs', 'linearGradient', 'radialGradient'])

const FALLBACK_SIZE = { width: 300, height: 150 }

/**
 * Reads an SVG file into a new puppet.
 *
 * @param ids gives ids; the same source and ids give the same puppet
 * Throws FormatError where the file is no SVG or cannot be parsed.
 */
export function importSvg(source: string, name: string, ids: IdSource = sequentialIds('svg')): SvgImport {
  const root = parseTree(source)
  if (localName(root) !== 'svg') throw new FormatError(`This is not an SVG drawing: its outermost element is <${root.name}>.`)
  const { size, view, place } = readViewport(root)
  const title = root.children.find((c) => c.name === 'title')?.text.trim()
  let puppet = newPuppet(ids('puppet'), (title || name).slice(0, 200), size)
  const reader = new Reader(elementsById(root), ids, view)
  const fit = root.attributes['preserveAspectRatio']?.trim()
  if (fit && !/^xMidYMid( meet)?$/.test(fit))
    reader.warn('svg.viewport', root, `preserveAspectRatio "${fit.slice(0, 40)}" was read as xMidYMid meet`)
  reader.children(root, computeStyleOf(reader, root, INITIAL_STYLE), null)
  puppet = run(puppet, setHome, { part: puppet.root, home: placementOf(place, { x: 0, y: 0 }) })
  const { parts, drawings, pivots, warnings } = reader
  if (parts.length > 0) puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings })
  return { puppet: settlePivots(puppet, pivots), warnings }
}

const localName = (element: SvgElement): string => element.name.replace(/^svg:/, '')

function computeStyleOf(reader: Reader, element: SvgElement, inherited: Style): Style {
  const { style, unsupported } = computeStyle(element, inherited)
  for (const { property, value } of unsupported) {
    reader.warn('svg.property', element, `${property}: ${value.slice(0, 60)} is not drawn yet`)
  }
  return style
}

/** Canvas size, the view that percentages are of, and the map from the view box to it (centred, whole drawing visible). */
function readViewport(root: SvgElement): { size: ViewSize; view: ViewSize; place: Affine } {
  const box = parseNumbers(root.attributes['viewBox'] ?? '')
  const view = box?.length === 4 && box[2]! > 0 && box[3]! > 0 ? box : null
  const width = positive(parseLength(root.attributes['width']))
  const height = positive(parseLength(root.attributes['height']))
  const shape = view ? view[2]! / view[3]! : null
  // A side that is not given follows from the other and the view box.
  const size = {
    width: clampSize(width ?? (shape && height ? height * shape : (view?.[2] ?? FALLBACK_SIZE.width))),
    height: clampSize(height ?? (shape && width ? width / shape : (view?.[3] ?? FALLBACK_SIZE.height))),
  }
  if (!view) return { size, view: size, place: IDENTITY }
  const [x = 0, y = 0, w = 1, h = 1] = view
  const scale = Math.min(size.width / w, size.height / h)
  return {
    size,
    view: { width: w, height: h },
    place: [scale, 0, 0, scale, (size.width - scale * w) / 2 - scale * x, (size.height - scale * h) / 2 - scale * y],
  }
}

const positive = (v: number | null): number | null => (v !== null && v > 0 ? v : null)
const clampSize = (v: number): number => Math.min(32768, Math.max(1, v))

/** Ids that drawing programs hand out by themselves are no names. */
const AUTOMATIC_ID = /^(path|rect|circle|ellipse|line|poly(line|gon)|g|group|svg|layer|use|shape|vector|object|xml)?[-_ ]?\d+([-_.]\d+)*$/i

/** The name that a person gave to an element, if any. */
function ownName(element: SvgElement): string | null {
  const title = element.children.find((c) => c.name === 'title')?.text.trim()
  const id = element.attributes['id']?.trim()
  const name = title || element.attributes['aria-label']?.trim() || (id && !AUTOMATIC_ID.test(id) ? id : '')
  return name ? name.slice(0, 200) : null
}

/** Whether a shape shares a drawing with its neighbours: it has no name, and is not hidden, which only a part can be. */
function isJoinable(element: SvgElement): boolean {
  const { style } = computeStyle(element, INITIAL_STYLE)
  const isHidden = style['display'] === 'none' || style['visibility'] !== 'visible'
  return SHAPE_ELEMENTS.has(localName(element)) && !ownName(element) && !isHidden
}

const WORDS: Record<string, string> = {
  g: 'group',
  path: 'path',
  rect: 'box',
  circle: 'circle',
  ellipse: 'oval',
  line: 'line',
  polyline: 'line',
  polygon: 'polygon',
}

class Reader {
  readonly parts: Part[] = []
  readonly drawings: Drawing[] = []
  /** Pivots that the file gives, in the space of the part's parent. */
  readonly pivots = new Map<string, { x: number; y: number } | null>()
  readonly warnings: Warning[] = []

  constructor(
    private readonly byId: ReadonlyMap<string, SvgElement>,
    private readonly ids: IdSource,
    private readonly view: ViewSize,
  ) {}

  warn(code: string, element: SvgElement, message: string): void {
    this.warnings.push({ code, place: placeOf(element), message })
  }

  /** Reads what stands inside a group; runs of unnamed shapes become one drawing. */
  children(element: SvgElement, style: Style, parent: string | null): void {
    // A hidden group hides its part; what is in it keeps its own visibility.
    const inherited = { ...inheritable(style), visibility: 'visible' }
    let run: Shape[] = []
    const points: PointIds = { next: 0 }
    const endRun = (): void => {
      if (run.length > 0) this.addDrawing(`${ownName(element) ?? 'drawing'} shape`, run, parent)
      run = []
      points.next = 0
    }
    for (const child of element.children) {
      const tag = localName(child)
      if (isJoinable(child)) run.push(...this.shape(child, inherited, points, run.length, true))
      else if (SHAPE_ELEMENTS.has(tag)) {
        endRun()
        this.namedShape(child, inherited, parent)
      } else if (tag === 'g') {
        endRun()
        this.group(child, inherited, parent)
      } else if (!SILENT.has(tag) && !tag.includes(':')) this.warn('svg.element', child, `<${tag}> is not drawn yet`)
    }
    endRun()
  }

  private group(element: SvgElement, inherited: Style, parent: string | null): void {
    const style = computeStyleOf(this, element, inherited)
    const part = this.addPart(element, ownName(element) ?? WORDS['g']!, style, parent)
    const tags = element.children.filter((c) => !SILENT.has(localName(c)))
    const plain = tags.length > 0 && tags.every(isJoinable)
    if (!plain) return this.children(element, style, part.id)
    const points: PointIds = { next: 0 }
    const shapes = tags.flatMap((child, i) => this.shape(child, { ...inheritable(style), visibility: 'visible' }, points, i, true))
    this.show(part, shapes)
  }

  private namedShape(element: SvgElement, inherited: Style, parent: string | null): void {
    const style = computeStyleOf(this, element, inherited)
    const part = this.addPart(element, ownName(element) ?? WORDS[localName(element)]!, style, parent)
    this.show(part, this.shape(element, { ...inherited, visibility: 'visible' }, { next: 0 }, 0, false))
  }

  /** Adds the part of an element; its transform becomes the home about the origin, pivots are settled later. */
  private addPart(element: SvgElement, name: string, style: Style, parent: string | null): Part {
    const part = newPart(this.ids('part'), name)
    const transform = this.transformOf(element, style)
    part.parent = parent
    part.home = placementOf(transform, part.pivot)
    part.opacity = parseAlpha(style['opacity']!)
    part.visible = style['display'] !== 'none' && style['visibility'] === 'visible'
    const given = parseNumbers(element.attributes['data-pivot'] ?? '')
    this.pivots.set(part.id, given?.length === 2 ? { x: given[0]!, y: given[1]! } : null)
    this.parts.push(part)
    return part
  }

  private addDrawing(name: string, shapes: Shape[], parent: string | null): void {
    const part = newPart(this.ids('part'), name)
    part.parent = parent
    this.pivots.set(part.id, null)
    this.parts.push(part)
    this.show(part, shapes)
  }

  private show(part: Part, shapes: Shape[]): void {
    const drawing = { id: this.ids('drawing'), shapes: shapes.map((shape, id) => ({ ...shape, id })) }
    this.drawings.push(drawing)
    part.content = { kind: 'drawing' }
    part.art = { [FRONT_VIEW]: drawing.id }
  }

  private transformOf(element: SvgElement, style: Style): Affine {
    const written = style['transform'] === 'none' ? element.attributes['transform'] : style['transform']!.replace(/(px|deg)/g, '')
    const transform = parseTransform(written)
    if (!transform) this.warn('svg.transform', element, `the transform "${written?.slice(0, 60)}" cannot be read and was left out`)
    return transform ?? IDENTITY
  }

  /** The shape of an element; `placed` bakes its own transform and opacity in. Shapes without an outline give none. */
  private shape(element: SvgElement, inherited: Style, points: PointIds, id: number, placed: boolean): Shape[] {
    const style = placed ? computeStyleOf(this, element, inherited) : computeStyle(element, inherited).style
    for (const child of element.children) {
      if (!SILENT.has(localName(child)) && !child.name.includes(':')) this.warn('svg.element', child, `<${child.name}> is not drawn yet`)
    }
    const { paths, problem } = outlineOf(element, points, this.view)
    if (problem) this.warn('svg.outline', element, `its outline is broken (${problem}); only what came before is drawn`)
    if (paths.length === 0) return []
    const place = placed ? this.transformOf(element, style) : IDENTITY
    const box = emptyBounds()
    for (const path of paths) pathBounds(path, box)
    const ink = this.paint(element, 'fill', style, box, place)
    const line = this.paint(element, 'stroke', style, box, place)
    return [
      {
        id,
        paths: place === IDENTITY ? paths : paths.map((p) => mapPath(p, place)),
        ink: ink && { paint: ink.paint, alpha: ink.alpha, rule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero' },
        line: line && this.lineOf(style, line, place),
        alpha: placed ? parseAlpha(style['opacity']!) : 1,
      },
    ]
  }

  private paint(element: SvgElement, property: 'fill' | 'stroke', style: Style, box: Bounds, place: Affine): Colouring | null {
    const result = resolvePaint(style[property]!, style, this.byId, box, place, this.view)
    if (result.kind === 'none') return null
    if (result.kind === 'problem') this.warn('svg.paint', element, `its ${property} ${result.message}`)
    const value = result.value
    return value && { paint: value.paint, alpha: value.alpha * parseAlpha(style[`${property}-opacity`]!) }
  }

  private lineOf(style: Style, colouring: Colouring, place: Affine): Line | null {
    const diagonal = Math.hypot(this.view.width, this.view.height) / Math.SQRT2
    const width = parseLength(style['stroke-width'], diagonal) ?? 1
    if (!(width > 0)) return null
    const round = keepsAngles(place)
    const scale = round ? Math.sqrt(Math.abs(place[0] * place[3] - place[1] * place[2])) : 1
    const lengths = (style['stroke-dasharray']!.match(/[^\s,]+/g) ?? []).map((t) => parseLength(t, diagonal) ?? NaN)
    const dashed = lengths.length > 0 && lengths.every((n) => n >= 0) && lengths.some((n) => n > 0)
    return {
      paint: colouring.paint,
      alpha: colouring.alpha,
      width: width * scale,
      cap: (['round', 'square'] as const).find((c) => c === style['stroke-linecap']) ?? 'butt',
      join: (['round', 'bevel'] as const).find((j) => j === style['stroke-linejoin']) ?? 'miter',
      miter: Math.max(1, parseLength(style['stroke-miterlimit']) ?? 4),
      dash: dashed
        ? {
            lengths: (lengths.length % 2 === 1 ? [...lengths, ...lengths] : lengths).map((n) => n * scale),
            offset: (parseLength(style['stroke-dashoffset'], diagonal) ?? 0) * scale,
          }
        : null,
      pen: round ? null : [place[0], place[1], place[2], place[3]],
    }
  }
}

/** Puts each pivot where the file says, or in the middle of what the part shows. */
function settlePivots(puppet: Puppet, given: ReadonlyMap<string, { x: number; y: number } | null>): Puppet {
  const boxes = ownBounds(puppet)
  let out = puppet
  for (const [part, spot] of given) {
    const into = spot && invert(placementHome(puppet, part))
    if (into) out = run(out, setPivot, { part, pivot: apply(into, spot) })
    else {
      const box = boxes.get(part)
      if (box && !isEmpty(box)) out = run(out, setPivot, { part, pivot: { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 } })
    }
  }
  return out
}

/** Map of a part's own space to its parent's, while its pivot is still the origin. */
function placementHome(puppet: Puppet, part: string): Affine {
  const p = puppet.parts[part]!
  const outer = p.parent === null ? IDENTITY : restMatrix(puppet, p.parent)
  return multiply(invert(outer) ?? IDENTITY, restMatrix(puppet, part))
}

/** Bounds of each part's contents in its own space. */
function ownBounds(puppet: Puppet): Map<string, Bounds> {
  const out = new Map<string, Bounds>()
  for (const part of partsBelow(puppet, puppet.root)) {
    const own = emptyBounds()
    const back = invert(restMatrix(puppet, part.id))
    if (!back) continue
    for (const inner of partsBelow(puppet, part.id)) {
      const art = inner.art[FRONT_VIEW]
      if (art) unite(own, drawingBounds(puppet.drawings[art]!, multiply(back, restMatrix(puppet, inner.id))))
    }
    out.set(part.id, own)
  }
  return out
}
