/** Clip paths, masks, filters and blend modes of elements as masks, effects and blend modes of parts. */
import { BlendMode, type Affine, type Part, type Shape } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply } from '@marionette/core/maths/geometry/affine'
import { isEmpty, mapBounds, type Bounds } from '@marionette/core/maths/geometry/bounds'
import type { Context, Scope } from './context'
import { effectOf } from './filters'
import { ownName } from './names'
import { parseLength } from './numbers'
import { toBox } from './paint'
import type { Style } from './style'
import type { SvgElement } from './tree'
import type { Rect } from './viewport'

/** What makes parts of elements, as far as clips and masks need it. */
export interface PartMaker {
  readonly context: Context
  fill(part: Part, elements: readonly SvgElement[], scope: Scope): void
  addPart(name: string, map: Affine, parent: string | null): Part
  show(part: Part, shapes: readonly Shape[]): void
  ensureGroup(part: Part): void
}

/** Whether an element is laid down in another way than by plain painting. */
export const hasLayer = (style: Style): boolean =>
  style['clip-path'] !== 'none' ||
  style['mask'] !== 'none' ||
  style['filter'] !== 'none' ||
  style['mix-blend-mode'] !== 'normal' ||
  style['isolation'] === 'isolate'

/** Gives a part that was read in full the masks, effect and blend mode of its element. */
export function layerPart(reader: PartMaker, element: SvgElement, style: Style, part: Part, scope: Scope): void {
  if (!hasLayer(style)) return
  const { context } = reader
  const box = context.geometryOf(part)
  if (!scope.area) {
    part.blend = blendOf(context, element, style)
    part.isolated = style['isolation'] === 'isolate'
    part.effect = effectOf(context, element, style, scope, box)
  }
  if (style['clip-path'] !== 'none') {
    const target = context.reference(element, 'clip-path', style['clip-path']!, 'clipPath')
    if (target) context.follow(element, target, () => addClip(reader, element, target, part, scope, box))
  }
  if (style['mask'] !== 'none' && !scope.area) {
    const target = context.reference(element, 'mask', style['mask']!, 'mask')
    if (target) context.follow(element, target, () => addMask(reader, target, part, scope, box))
  }
}

function blendOf(context: Context, element: SvgElement, style: Style): BlendMode {
  const known = BlendMode.safeParse(style['mix-blend-mode'])
  if (!known.success) context.warn('svg.property', element, `mix-blend-mode: ${style['mix-blend-mode']!.slice(0, 40)} is not known`)
  return known.data ?? 'normal'
}

/** Elements that count inside a clip path. */
const CLIPPING = /^(path|rect|circle|ellipse|line|polyline|polygon|use)$/

function addClip(reader: PartMaker, element: SvgElement, target: SvgElement, part: Part, scope: Scope, box: Bounds): void {
  const { context } = reader
  const inBox = target.attributes['clipPathUnits'] === 'objectBoundingBox'
  const style = context.styleOf(target, target.parent ? context.placeStyle(target.parent) : scope.style)
  const own = context.transformOf(target, style, scope.view)
  const shape = addShape(reader, part, ownName(target) ?? `${part.name} clip`, multiply(inBox ? boxMap(box) : IDENTITY, own))
  const inner: Scope = { ...scope, style: context.placeStyle(target), view: inBox ? { width: 1, height: 1 } : scope.view, area: true }
  for (const child of target.children)
    if (!CLIPPING.test(child.name) && child.name !== 'title' && child.name !== 'desc')
      context.warn('svg.element', child, `<${child.name}> does not count inside a clip path`)
  reader.fill(
    shape,
    target.children.filter((c) => CLIPPING.test(c.name)),
    inner,
  )
  part.masks.push({ shape: shape.id, keep: 'inside', by: 'area' })
  // A clip path may itself be clipped.
  if (style['clip-path'] === 'none') return
  const outer = context.reference(target, 'clip-path', style['clip-path']!, 'clipPath')
  if (outer) context.follow(element, outer, () => addClip(reader, element, outer, shape, scope, context.geometryOf(shape)))
}

function addMask(reader: PartMaker, target: SvgElement, part: Part, scope: Scope, box: Bounds): void {
  const { context } = reader
  const inBox = target.attributes['maskContentUnits'] === 'objectBoundingBox'
  const style = context.styleOf(target, target.parent ? context.placeStyle(target.parent) : scope.style)
  const shape = addShape(reader, part, ownName(target) ?? `${part.name} mask`, inBox ? boxMap(box) : IDENTITY)
  reader.fill(shape, target.children, { ...scope, style: context.placeStyle(target), view: inBox ? { width: 1, height: 1 } : scope.view })
  part.masks.push({ shape: shape.id, keep: 'inside', by: style['mask-type'] === 'alpha' ? 'paint' : 'brightness' })
  const region = maskRegion(target, scope, box)
  if (region) cutToRoom(reader, part, region, mapBounds(context.geometryOf(shape), context.maps.get(shape.id)!), `${part.name} mask edge`)
}

/** What of a mask counts, in the space of the masked part. */
function maskRegion(mask: SvgElement, scope: Scope, box: Bounds): Rect | null {
  const inBox = mask.attributes['maskUnits'] !== 'userSpaceOnUse'
  const side = (name: string, whole: number, share: number): number => parseLength(mask.attributes[name], whole) ?? share * whole
  if (!inBox) {
    const { width, height } = scope.view
    return { x: side('x', width, -0.1), y: side('y', height, -0.1), width: side('width', width, 1.2), height: side('height', height, 1.2) }
  }
  if (isEmpty(box)) return null
  const [wide, , , high, left, top] = toBox(box)
  return {
    x: left + wide * side('x', 1, -0.1),
    y: top + high * side('y', 1, -0.1),
    width: wide * side('width', 1, 1.2),
    height: high * side('height', 1, 1.2),
  }
}

/** Without any extent there is nothing to measure by, and nothing shows. */
const boxMap = (box: Bounds): Affine => (isEmpty(box) ? [0, 0, 0, 0, 0, 0] : toBox(box))

/** A hidden part inside the masked one, which therefore goes wherever that goes. */
function addShape(reader: PartMaker, part: Part, name: string, map: Affine): Part {
  reader.ensureGroup(part)
  const shape = reader.addPart(name, map, part.id)
  shape.visible = false
  return shape
}

/** Lets a part show only inside a rectangle of its own space, if any of `content` lies outside of it. */
export function cutToRoom(reader: PartMaker, part: Part, room: Rect, content: Bounds, name: string): void {
  const right = room.x + room.width
  const bottom = room.y + room.height
  const slack = 1e-6 * Math.max(room.width, room.height)
  const fits =
    isEmpty(content) ||
    (content.minX >= room.x - slack && content.minY >= room.y - slack && content.maxX <= right + slack && content.maxY <= bottom + slack)
  if (fits) return
  const shape = addShape(reader, part, name, [...IDENTITY])
  const path = {
    closed: true,
    ids: [0, 1, 2, 3],
    anchors: [room.x, room.y, right, room.y, right, bottom, room.x, bottom],
    handles: new Array<number>(16).fill(0),
  }
  reader.show(shape, [
    {
      id: 0,
      paths: [path],
      ink: { paint: { kind: 'flat', colour: '#000000' }, alpha: 1, rule: 'nonzero' },
      line: null,
      alpha: 1,
      lineFirst: false,
    },
  ])
  part.masks.push({ shape: shape.id, keep: 'inside', by: 'area' })
}
