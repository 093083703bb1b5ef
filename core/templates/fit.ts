/**
 * Fitting a template to artwork: pivots from overlaps and contacts, bones along medial lines, parts bound to them.
 *
 * Planning changes nothing; the plan tells how each spot was found and what is left to be placed by hand.
 */
import { placedDrawings } from '../binds/autoWeights'
import { alongLine } from '../maths/geometry/polyline'
import { mostShared, regionOf, type MultiPolygon } from '../artwork/region'
import type { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { drawingOf, drawnParts, partPath, partsBelow, maskingParts } from '../parts/tree'
import { meansStill } from '../roles/match'
import { roleLabel } from '../roles/roles'
import { convertName } from '../roles/naming'
import type { Assignment } from './assign'
import { farEnd, jointOf, nearEnd, pieceOf, wayThrough, type FoundBy, type Piece, type Spot } from './joints'
import type { Template, TemplateBone } from './template'
import { nth, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'
import { mirroredLimits } from '../skeleton/commands'
import { isMirrored, type Placed } from './mirrored'

/** A bone as the fit would draw it. */
export interface FittedBone {
  readonly key: string
  readonly name: string
  /** Key of the bone that it hangs from. */
  readonly parent: string | null
  /** The part in which it lies; null where it was put by the template's figure. */
  readonly part: PartId | null
  readonly start: Vec
  readonly end: Vec
  readonly startBy: FoundBy
  readonly endBy: FoundBy
  readonly colour: number
  readonly limits: TemplateBone['limits']
}

/** What a fit would do: bones, binds, targets, and what it leaves alone. */
export interface FitPlan {
  readonly bones: readonly FittedBone[]
  /** Parts with the bones that carry them: one for a whole bind, several for a blended one. */
  readonly binds: readonly { readonly part: PartId; readonly bones: readonly string[] }[]
  /** Parts that the template does not know, hung to what they lie on. */
  readonly followers: readonly { readonly part: PartId; readonly bone: string; readonly on: PartId }[]
  /** Where parts turn, on the canvas. */
  readonly pivots: readonly { readonly part: PartId; readonly at: Vec }[]
  /** What a person has to look at, one sentence each. */
  readonly byHand: readonly { readonly what: string; readonly why: string }[]
  readonly roles: Readonly<Record<PartId, string>>
}

/** Plans how a template is fitted to a puppet; nothing changes. */
export function planFit(
  puppet: Puppet,
  template: Template,
  roles: Assignment['roles'],
  progress: (done: number) => void = () => {},
): FitPlan {
  return new Fitter(puppet, template, roles).plan(progress)
}

/** Bones that follow each other within one part. */
interface Run {
  readonly part: PartId
  readonly bones: TemplateBone[]
}

class Fitter {
  private readonly pieces = new Map<PartId, Piece | null>()
  private readonly joints = new Map<string, Spot | null>()
  private readonly parts = new Map<string, PartId>()
  private readonly byKey: ReadonlyMap<string, TemplateBone>
  private readonly byHand: { what: string; why: string }[] = []
  private readonly assignedParts: ReadonlySet<PartId>
  private readonly masking: ReadonlySet<PartId>

  constructor(
    private readonly puppet: Puppet,
    private readonly template: Template,
    private readonly roles: Assignment['roles'],
  ) {
    this.byKey = new Map(template.bones.map((b) => [b.key, b]))
    this.masking = maskingParts(puppet)
    this.assignedParts = new Set([...roles.values()].flatMap((a) => [a.part, ...a.also]))
  }

  plan(progress: (done: number) => void): FitPlan {
    for (const bone of this.template.bones) this.resolve(bone)
    const runs = this.runs()
    const bones: FittedBone[] = []
    runs.forEach((run, i) => {
      bones.push(...this.fitRun(run))
      progress((i + 1) / runs.length)
    })
    const mirrored = isMirrored(this.placed(bones))
    bones.push(...this.byFigure(bones, mirrored))
    const place = new Map(this.template.bones.map((b, i) => [b.key, i]))
    bones.sort((a, b) => sure(place.get(a.key)) - sure(place.get(b.key)))
    const binds = [...runs.flatMap((run) => this.boundTo(run)), ...this.carried(bones)]
    // A part that bones run through is not carried by another one as well.
    const merged = firstOfEach(binds)
    const pivots = runs.map((run) => ({ part: run.part, at: sure(bones.find((b) => b.key === nth(run.bones, 0).key)).start }))
    const roles = Object.fromEntries([...this.roles].flatMap(([role, { part, also }]) => [part, ...also].map((p) => [p, role])))
    const turning = mirrored ? bones.map((b) => ({ ...b, limits: mirroredLimits(b.limits) })) : bones
    return { bones: turning, binds: merged, followers: this.followers(merged), pivots: firstOfEach(pivots), byHand: this.byHand, roles }
  }

  /** The part in which bones lie, and those that share its role, go with all of them. */
  private boundTo({ part, bones }: Run): { part: PartId; bones: string[] }[] {
    const shared = [...this.roles.values()].filter((a) => a.part === part).flatMap((a) => a.also)
    return [part, ...shared].map((p) => ({ part: p, bones: bones.map((b) => b.key) }))
  }

  /** Finds the part in which a bone lies. */
  private resolve(bone: TemplateBone): void {
    const part = bone.of.map((key) => this.roles.get(key)?.part).find((p) => p !== undefined && this.piece(p) !== null)
    if (part !== undefined) this.parts.set(bone.key, part)
    else if (!bone.optional)
      this.byHand.push({
        what: bone.name,
        why: `no part plays ${bone.of.map(roleLabel).join(' or ')}; it was put where the template’s figure has it`,
      })
  }

  /** The shape of a part on the canvas, without the parts in it that play roles of their own. */
  private piece(part: PartId): Piece | null {
    let piece = this.pieces.get(part)
    if (piece === undefined) {
      const region = this.regionOf(part)
      piece = region.length === 0 ? null : pieceOf(region)
      this.pieces.set(part, piece)
    }
    return piece
  }

  private regionOf(part: PartId): MultiPolygon {
    const own = drawnParts(this.puppet, part).filter((p) => !this.isHiddenMask(p) && this.playerAbove(p.id) === part)
    return regionOf(placedDrawings(this.puppet, own), 0.5)
  }

  private readonly isHiddenMask = (part: Part): boolean => !part.visible && this.masking.has(part.id)

  /** The nearest part upwards, itself included, that plays a role. */
  private playerAbove(part: PartId): PartId | undefined {
    return partPath(this.puppet, part).findLast((p) => this.assignedParts.has(p.id))?.id
  }

  private runs(): Run[] {
    const out: Run[] = []
    for (const bone of this.template.bones) {
      const part = this.parts.get(bone.key)
      if (part === undefined) continue
      const before = out.find((run) => run.part === part && nth(run.bones, -1).key === bone.parent)
      if (before && bone.lies === 'along') before.bones.push(bone)
      else out.push({ part, bones: [bone] })
    }
    return out
  }

  private joint(a: PartId, b: PartId): Spot | null {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`
    if (!this.joints.has(key)) {
      const [p, q] = [this.piece(a), this.piece(b)]
      this.joints.set(key, p && q && a !== b ? jointOf(p, q) : null)
    }
    return this.joints.get(key) ?? null
  }

  private fitRun({ part, bones }: Run): FittedBone[] {
    const piece = sure(this.piece(part))
    const [first, last] = [nth(bones, 0), nth(bones, -1)]
    if (first.lies === 'centre') {
      const { middle, radius } = piece
      const end = { x: middle.x, y: middle.y - Math.max(4, radius) }
      return [this.fitted(first, part, { at: middle, by: 'middle' }, { at: end, by: 'middle' })]
    }
    const next = last.on === null ? undefined : this.parts.get(last.on)
    const onward = next === undefined ? null : this.joint(next, part)
    const start = this.startOf(part, first, onward?.at ?? null)
    const end = onward ?? farEnd(piece, start.at)
    if (start.by === 'medial' && first.parent !== null)
      this.byHand.push({
        what: first.name,
        why: `its part touches none of those that it could hang from; its start was put at the part’s end`,
      })
    const way = wayThrough(piece, start.at, end.at)
    const total = bones.reduce((sum, b) => sum + b.share, 0)
    let done = 0
    let from: Spot = start
    return bones.map((bone, i) => {
      done += bone.share
      const to: Spot = i === bones.length - 1 ? end : { at: alongLine(way, done / total), by: 'medial' }
      const fitted = this.fitted(bone, part, from, to)
      from = to
      return fitted
    })
  }

  /** The joint with the part of the bone above or another that it may hang from; a root begins between all that hang from it. */
  private startOf(part: PartId, bone: TemplateBone, onward: Vec | null): Spot {
    const neighbours = bone.from.map((key) => this.roles.get(key)?.part).filter((p) => p !== undefined)
    const above = this.above(bone)
    if (above) neighbours.unshift(sure(this.parts.get(above)))
    const found = [...new Set(neighbours)].flatMap((p) => this.joint(part, p) ?? [])
    if (bone.parent !== null && found.length > 0) return nth(found, 0)
    if (found.length > 0) {
      const sum = found.reduce((s, { at }) => ({ x: s.x + at.x, y: s.y + at.y }), { x: 0, y: 0 })
      return { at: { x: sum.x / found.length, y: sum.y / found.length }, by: nth(found, 0).by }
    }
    return nearEnd(sure(this.piece(part)), onward)
  }

  /** The nearest bone above that was found a part for. */
  private above(bone: TemplateBone): string | null {
    for (let key = bone.parent; key !== null; key = this.byKey.get(key)?.parent ?? null) if (this.parts.has(key)) return key
    return null
  }

  /** The nearest bone above that is made: one with a part, or one that the template cannot do without. */
  private parentOf(bone: TemplateBone): string | null {
    for (let key = bone.parent; key !== null; key = this.byKey.get(key)?.parent ?? null)
      if (this.parts.has(key) || !this.byKey.get(key)?.optional) return key
    return null
  }

  /** Puts bones that no part was found for where the figure has them, shifted and scaled as the others lie. */
  private byFigure(found: readonly FittedBone[], mirrored: boolean): FittedBone[] {
    const open = this.template.bones.filter((b) => !b.optional && !this.parts.has(b.key))
    if (found.length === 0 || open.length === 0) return []
    const pairs = this.placed(found)
    const side = mirrored ? -1 : 1
    const across = fitLine(pairs.map((p) => [side * p.figure.x, p.at.x]))
    const y = fitLine(pairs.map((p) => [p.figure.y, p.at.y]))
    const x = (u: number): number => across(side * u)
    return open.map((bone): FittedBone => {
      const [sx, sy, ex, ey] = bone.figure
      const spot = (u: number, v: number): Spot => ({ at: { x: x(u), y: y(v) }, by: 'figure' })
      return this.fitted(bone, null, spot(sx, sy), spot(ex, ey))
    })
  }

  /** Starts and ends of bones in the figure, and where they were found. */
  private placed(found: readonly FittedBone[]): Placed[] {
    return found.flatMap(({ key, start, end }) => {
      const [sx, sy, ex, ey] = sure(this.byKey.get(key)).figure
      return [
        { figure: { x: sx, y: sy }, at: start },
        { figure: { x: ex, y: ey }, at: end },
      ]
    })
  }

  private fitted(bone: TemplateBone, part: PartId | null, start: Spot, end: Spot): FittedBone {
    const { key, colour, limits } = bone
    const name = convertName(bone.name, 'character-side', this.puppet.naming)
    const isPoint = Math.hypot(end.at.x - start.at.x, end.at.y - start.at.y) < 2
    if (isPoint) this.byHand.push({ what: name, why: 'its start and end fell on one spot' })
    const to = isPoint ? { x: start.at.x, y: start.at.y - 10 } : end.at
    return { key, name, parent: this.parentOf(bone), part, start: start.at, end: to, startBy: start.by, endBy: end.by, colour, limits }
  }

  /** Parts that a bone of another part carries. */
  private carried(bones: readonly FittedBone[]): { part: PartId; bones: string[] }[] {
    const exists = new Set(bones.map((b) => b.key))
    return this.template.carried.flatMap(({ role, bone }) => {
      const assigned = this.roles.get(role)
      if (!assigned) return []
      let key: string | null = bone
      while (key !== null && !exists.has(key)) key = this.byKey.get(key)?.parent ?? null
      if (key === null) return []
      const on = key
      return [assigned.part, ...assigned.also].map((part) => ({ part, bones: [on] }))
    })
  }

  /** Parts that nothing binds go with the part that they share most area with, or else touch. */
  private followers(binds: FitPlan['binds']): FitPlan['followers'] {
    const bound = new Map(binds.map((b) => [b.part, b.bones]))
    const loose: PartId[] = []
    const look = (id: PartId): void => {
      if (bound.has(id)) return
      const part = partOf(this.puppet, id)
      const holds = partsBelow(this.puppet, id).some((p) => bound.has(p.id))
      if (holds) part.children.forEach(look)
      else if (partsBelow(this.puppet, id).some((p) => p.visible && drawingOf(this.puppet, p))) loose.push(id)
    }
    partOf(this.puppet, this.puppet.root).children.forEach(look)
    return loose.flatMap((part) => {
      const { name } = partOf(this.puppet, part)
      if (meansStill(name)) return []
      const on = this.hostOf(part, [...bound.keys()])
      if (!on) {
        this.byHand.push({ what: name, why: 'the template does not know it and it touches nothing that is bound' })
        return []
      }
      return [{ part, bone: nth(sure(bound.get(on)), 0), on }]
    })
  }

  private hostOf(part: PartId, hosts: readonly PartId[]): PartId | null {
    const own = regionOf(placedDrawings(this.puppet, drawnParts(this.puppet, part)), 1)
    if (own.length === 0) return null
    const placed = hosts.map((host) => ({ host, region: this.piece(host)?.region ?? [] }))
    const shared = mostShared(own, placed)
    if (shared) return shared.host
    const piece = pieceOf(own)
    const touches = (host: PartId): boolean => {
      const other = this.piece(host)
      return piece !== null && other !== null && jointOf(piece, other) !== null
    }
    return hosts.find(touches) ?? null
  }
}

/** Least-squares line through pairs; a plain shift where they have one abscissa, or would turn back. */
function fitLine(pairs: readonly (readonly [number, number])[]): (v: number) => number {
  const n = pairs.length
  const [mu, mv] = pairs.reduce(([a, b], [u, v]) => [a + u / n, b + v / n], [0, 0])
  const uu = pairs.reduce((s, [u]) => s + (u - mu) ** 2, 0)
  const uv = pairs.reduce((s, [u, v]) => s + (u - mu) * (v - mv), 0)
  const slope = uu > 1e-6 && uv > 0 ? uv / uu : 1
  return (u) => mv + slope * (u - mu)
}

function firstOfEach<T extends { part: PartId }>(list: readonly T[]): T[] {
  const seen = new Set<PartId>()
  return list.filter(({ part }) => !seen.has(part) && seen.add(part))
}
