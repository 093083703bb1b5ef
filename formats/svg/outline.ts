/** Path data and basic shapes as cubic paths. */
import svgpath from 'svgpath'
import type { Path } from '@marionette/core/puppet/schema'
import { FARTHEST, parseLength, parseNumbers } from './numbers'
import type { SvgElement } from './tree'

export const SHAPE_ELEMENTS = new Set(['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon'])

type Attributes = Readonly<Record<string, string>>

/** Numbers point ids through a drawing. */
export interface PointIds {
  next: number
}

export interface Outline {
  readonly paths: Path[]
  /** What could not be read; the paths hold what came before it. */
  readonly problem: string | null
}

/** Outline of a shape element in its own space, by its attributes. */
export function outlineOf(element: SvgElement, a: Attributes, ids: PointIds, view: { width: number; height: number }): Outline {
  const data = element.name === 'path' ? a['d'] : shapeData(element.name, a, view)
  if (data === undefined || data.trim() === '' || data.trim() === 'none') return { paths: [], problem: null }
  return pathsOf(data, ids)
}

/** Path data of a basic shape; undefined where it has no extent. */
function shapeData(name: string, a: Attributes, view: { width: number; height: number }): string | undefined {
  const across = (side: string): number => parseLength(a[side], view.width) ?? 0
  const down = (side: string): number => parseLength(a[side], view.height) ?? 0
  const diagonal = Math.hypot(view.width, view.height) / Math.SQRT2
  switch (name) {
    case 'rect':
      return rectData(a, across('x'), down('y'), across('width'), down('height'), view)
    case 'circle': {
      const r = parseLength(a['r'], diagonal) ?? 0
      return ellipseData(across('cx'), down('cy'), r, r)
    }
    case 'ellipse': {
      const rx = parseLength(a['rx'], view.width)
      const ry = parseLength(a['ry'], view.height)
      return ellipseData(across('cx'), down('cy'), rx ?? ry ?? 0, ry ?? rx ?? 0)
    }
    case 'line':
      return `M${across('x1')} ${down('y1')}L${across('x2')} ${down('y2')}`
    default: {
      const numbers = parseNumbers(a['points'] ?? '') ?? []
      if (numbers.length < 2) return undefined
      const even = numbers.slice(0, numbers.length - (numbers.length % 2))
      return `M${even.join(' ')}${name === 'polygon' ? 'Z' : ''}`
    }
  }
}

function rectData(a: Attributes, x: number, y: number, w: number, h: number, view: { width: number; height: number }): string | undefined {
  if (w <= 0 || h <= 0) return undefined
  const givenX = parseLength(a['rx'], view.width)
  const givenY = parseLength(a['ry'], view.height)
  const rx = Math.min(w / 2, Math.max(0, givenX ?? givenY ?? 0))
  const ry = Math.min(h / 2, Math.max(0, givenY ?? givenX ?? 0))
  if (rx === 0 || ry === 0) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`
  const corner = `A${rx} ${ry} 0 0 1 `
  return (
    `M${x + rx} ${y}H${x + w - rx}${corner}${x + w} ${y + ry}V${y + h - ry}${corner}${x + w - rx} ${y + h}` +
    `H${x + rx}${corner}${x} ${y + h - ry}V${y + ry}${corner}${x + rx} ${y}Z`
  )
}

function ellipseData(cx: number, cy: number, rx: number, ry: number): string | undefined {
  if (rx <= 0 || ry <= 0) return undefined
  const quarter = `A${rx} ${ry} 0 0 1 `
  return `M${cx + rx} ${cy}${quarter}${cx} ${cy + ry}${quarter}${cx - rx} ${cy}${quarter}${cx} ${cy - ry}${quarter}${cx + rx} ${cy}Z`
}

/** Reads path data; arcs become cubics that stray from them by less than a thousandth of the radius. */
export function pathsOf(data: string, ids: PointIds): Outline {
  const source = svgpath(data) as ReturnType<typeof svgpath> & { err?: string }
  const builder = new PathBuilder(ids)
  let broken = false
  source
    .abs()
    .unshort()
    .unarc()
    .iterate((segment) => {
      const [verb, ...n] = segment as [string, ...number[]]
      if (broken || n.some((v) => !Number.isFinite(v) || Math.abs(v) > FARTHEST)) {
        broken = true
        return
      }
      builder.add(verb, n)
    })
  const problem = source.err ? source.err.replace(/^SvgPath: /, '') : broken ? 'a coordinate is out of bounds' : null
  return { paths: builder.finish(), problem }
}

interface Growing {
  ids: number[]
  anchors: number[]
  handles: number[]
}

/** Collects absolute M, L, H, V, C, Q and Z segments into paths. */
class PathBuilder {
  private readonly paths: Path[] = []
  private open: Growing | null = null
  private start = { x: 0, y: 0 }
  private at = { x: 0, y: 0 }

  constructor(private readonly ids: PointIds) {}

  add(verb: string, n: readonly number[]): void {
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = n
    const { x, y } = this.at
    if (verb === 'M') {
      this.end(false)
      this.at = this.start = { x: a, y: b }
    } else if (verb === 'L') this.curve(x, y, a, b, a, b)
    else if (verb === 'H') this.curve(x, y, a, y, a, y)
    else if (verb === 'V') this.curve(x, y, x, a, x, a)
    else if (verb === 'C') this.curve(a, b, c, d, e, f)
    else if (verb === 'Q') this.curve(x + (2 / 3) * (a - x), y + (2 / 3) * (b - y), c + (2 / 3) * (a - c), d + (2 / 3) * (b - d), c, d)
    else if (verb === 'Z') {
      this.begin()
      this.end(true)
      this.at = this.start
    }
  }

  finish(): Path[] {
    this.end(false)
    return this.paths
  }

  private begin(): Growing {
    if (!this.open) {
      this.start = this.at
      this.open = { ids: [this.ids.next++], anchors: [this.at.x, this.at.y], handles: [0, 0, 0, 0] }
    }
    return this.open
  }

  private curve(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    const open = this.begin()
    const last = open.handles.length - 4
    open.handles[last + 2] = x1 - this.at.x
    open.handles[last + 3] = y1 - this.at.y
    open.ids.push(this.ids.next++)
    open.anchors.push(x, y)
    open.handles.push(x2 - x, y2 - y, 0, 0)
    this.at = { x, y }
  }

  /** Ends the path in work; a closed one whose last point lies on its first gives it the handle and drops it. */
  private end(closed: boolean): void {
    const open = this.open
    this.open = null
    if (!open) return
    const n = open.ids.length
    const meets =
      Math.abs(open.anchors[2 * n - 2]! - open.anchors[0]!) < 1e-9 && Math.abs(open.anchors[2 * n - 1]! - open.anchors[1]!) < 1e-9
    if (closed && n > 1 && meets) {
      open.handles[0] = open.handles[4 * n - 4]!
      open.handles[1] = open.handles[4 * n - 3]!
      open.ids.pop()
      open.anchors.length -= 2
      open.handles.length -= 4
    }
    this.paths.push({ closed, ...open })
  }
}
