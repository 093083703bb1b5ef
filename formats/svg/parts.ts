/**
 * Elements as parts.
 *
 * Each group becomes a part with its name, order, visibility and opacity. Shapes that carry a name of their own, or
 * that are masked, blended or changed by an effect, become parts as well; unnamed shapes beside each other share one
 * drawing. A group that holds nothing but unnamed shapes is one drawing part.
 */
import { FRONT_VIEW } from '@marionette/core/puppet/new'
import type { Affine, Part, Shape } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply } from '@marionette/core/maths/geometry/affine'
import { hrefOf, type Context, type Scope } from './context'
import { cutToRoom, hasLayer, layerPart } from './layers'
import { contentName, kindsOf, ownName } from './names'
import { parseNumbers } from './numbers'
import type { PointIds } from './outline'
import { parseAlpha } from './paint'
import { drawnChildren, GROUPS, isShape, isSilent, isViewport, nameUndrawn, shapesOf } from './shapes'
import { inheritable, withProperty, type Style } from './style'
import { nameText } from './text'
import type { SvgElement } from './tree'
import { useMap, viewportOf, type Viewport } from './use'
import { newPart } from '@marionette/core/parts/new'

/** An element on its way to becoming a part. */
interface Begun {
  readonly part: Part
  readonly style: Style
  readonly scope: Scope
}

export class Reader {
  constructor(readonly context: Context) {}

  /** Reads elements into a part: one drawing where all are unnamed shapes, parts in it otherwise. */
  fill(part: Part, elements: readonly SvgElement[], scope: Scope): void {
    const seen = elements.filter((e) => !isSilent(e))
    if (seen.length === 0 || !seen.every((e) => this.isJoinable(e, scope))) return this.children(elements, scope, part.id, part.name)
    const points: PointIds = { next: 0 }
    this.show(
      part,
      seen.flatMap((e) => shapesOf(this.context, e, scope, points, true)),
    )
  }

  /** Reads elements as parts; runs of unnamed shapes become one drawing. */
  children(elements: readonly SvgElement[], scope: Scope, parent: string | null, parentName: string | null): void {
    let run: SvgElement[] = []
    const endRun = (): void => {
      if (run.length > 0) this.addRun(run, scope, parent, parentName)
      run = []
    }
    for (const element of elements) {
      if (isSilent(element)) continue
      if (this.isJoinable(element, scope)) run.push(element)
      else {
        endRun()
        this.element(element, scope, parent)
      }
    }
    endRun()
  }

  /** Adds a part under another (null: at the top); `map` takes its own space to its parent's. */
  addPart(name: string, map: Affine, parent: string | null): Part {
    const part = newPart(this.context.ids('part'), name)
    part.parent = parent
    this.context.parts.push(part)
    this.context.maps.set(part.id, map)
    return part
  }

  show(part: Part, shapes: readonly Shape[]): void {
    const id = this.context.ids('drawing')
    this.context.drawings.set(id, { id, shapes: shapes.map((shape, k) => ({ ...shape, id: k })) })
    part.content = { kind: 'drawing' }
    part.art = { [FRONT_VIEW]: id }
  }

  /** Makes room for parts inside of one that shows a drawing: the drawing moves into a part of its own. */
  ensureGroup(part: Part): void {
    if (part.content.kind === 'group') return
    const inner = this.addPart(`${part.name} shape`, [...IDENTITY], part.id)
    inner.content = part.content
    inner.art = part.art
    part.content = { kind: 'group' }
    part.art = {}
  }

  /** Whether a shape shares a drawing with its neighbours: it has no name, and nothing that only a part can have. */
  private isJoinable(element: SvgElement, scope: Scope): boolean {
    if (!isShape(element) || (!scope.area && ownName(element))) return false
    const style = this.context.cascade.compute(element, scope.style)
    return style['display'] !== 'none' && style['visibility'] === 'visible' && !hasLayer(style)
  }

  private addRun(run: readonly SvgElement[], scope: Scope, parent: string | null, parentName: string | null): void {
    const points: PointIds = { next: 0 }
    const shapes = run.flatMap((e) => shapesOf(this.context, e, scope, points, true))
    if (shapes.length === 0) return
    const isNamed = parentName !== null && parent !== null && this.context.named.has(parent)
    this.show(this.addPart(isNamed ? `${parentName} shape` : kindsOf(run), [...IDENTITY], parent), shapes)
  }

  private element(element: SvgElement, scope: Scope, parent: string | null): void {
    if (element.name === 'text') return nameText(this.context, element, scope)
    if (element.name === 'use') return this.use(element, scope, parent)
    if (isShape(element)) return this.single(element, scope, parent)
    if (GROUPS.has(element.name)) return this.group(element, scope, parent)
    nameUndrawn(this.context, element)
  }

  /** A shape that is a part of its own. */
  private single(element: SvgElement, scope: Scope, parent: string | null): void {
    const { part, style } = this.begin(element, ownName(element) ?? kindsOf([element]), scope, parent, IDENTITY)
    const isHidden = style['visibility'] !== 'visible'
    if (isHidden) part.visible = false
    this.show(part, shapesOf(this.context, element, scope, { next: 0 }, false))
    layerPart(this, element, style, part, scope)
  }

  private group(element: SvgElement, scope: Scope, parent: string | null): void {
    const elements = drawnChildren(element)
    const seen = elements.filter((e) => !isSilent(e))
    const viewport = element.name === 'svg' ? viewportOf(element, scope.view) : null
    const begun = this.begin(element, ownName(element) ?? contentName(seen), scope, parent, viewport?.map ?? IDENTITY)
    this.finish(element, elements, begun, viewport, viewport ? element : null)
  }

  private use(element: SvgElement, scope: Scope, parent: string | null): void {
    const target = this.context.target(element)
    if (!target) {
      if (!hrefOf(element)) this.context.warn('svg.reference', element, 'it repeats nothing')
      return
    }
    // In a clip path only copies of shapes themselves count (CSS Masking 1), as every viewer has it.
    if (scope.area && !isShape(target))
      return this.context.warn('svg.element', element, `a copy of <${target.name}> does not count inside a clip path`)
    this.context.follow(element, target, () => {
      const viewport = isViewport(target) ? viewportOf(target, scope.view, element.attributes) : null
      const inner = multiply(useMap(element, scope.view), viewport?.map ?? IDENTITY)
      const begun = this.begin(element, ownName(element) ?? ownName(target) ?? kindsOf([element]), scope, parent, inner)
      const style = viewport ? inheritable(this.context.styleOf(target, begun.scope.style)) : begun.scope.style
      const elements = viewport ? target.children : [target]
      this.finish(element, elements, { ...begun, scope: { ...begun.scope, style } }, viewport, viewport ? target : null)
    })
  }

  /** Starts a part for an element: name, place, opacity, visibility, and what is inherited inside. */
  private begin(element: SvgElement, name: string, scope: Scope, parent: string | null, inner: Affine): Begun {
    const { context } = this
    context.spend()
    const style = context.styleOf(element, scope.style)
    const map = multiply(context.transformOf(element, style, scope.view), inner)
    const part = this.addPart(name, map, parent)
    if (ownName(element)) context.named.add(part.id)
    part.opacity = scope.area ? 1 : parseAlpha(style['opacity']!)
    part.visible = style['display'] !== 'none'
    part.source = { file: '', key: element.attributes['id']?.slice(0, 300) ?? null, path: [], place: [...IDENTITY] }
    const given = parseNumbers(element.attributes['data-pivot'] ?? '')
    if (given?.length === 2) context.pivots.set(part.id, { x: given[0]!, y: given[1]! })
    return { part, style, scope: { ...scope, style: inheritable(style), toCanvas: multiply(scope.toCanvas, map) } }
  }

  /** Reads what is in a part and lays it down as the element says. */
  private finish(
    element: SvgElement,
    elements: readonly SvgElement[],
    begun: Begun,
    viewport: Viewport | null,
    cutBy: SvgElement | null,
  ): void {
    const { context } = this
    const { part, style } = begun
    let scope = viewport ? { ...begun.scope, view: viewport.view } : begun.scope
    // A group that is hidden as a whole hides its part, so that what is in it can be shown by one click.
    if (style['visibility'] !== 'visible' && !elements.some((e) => this.showsInside(e))) {
      part.visible = false
      scope = { ...scope, style: withProperty(scope.style, 'visibility', 'visible') }
    }
    this.fill(part, elements, scope)
    if (viewport && cutBy) {
      const overflow = context.cascade.own(cutBy, 'overflow') ?? 'hidden'
      if (overflow === 'hidden' || overflow === 'scroll')
        cutToRoom(this, part, viewport.room, context.geometryOf(part), `${part.name} edge`)
    }
    layerPart(this, element, style, part, begun.scope)
  }

  /** Whether an element, or one in it, shows itself where all around is hidden. */
  private showsInside(element: SvgElement): boolean {
    return this.context.cascade.own(element, 'visibility') === 'visible' || element.children.some((c) => this.showsInside(c))
  }
}
