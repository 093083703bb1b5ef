/**
 * A new version of an artwork file against the puppet that was made from an older one.
 *
 * Layers are found again by identity, then by their path, then by name, and what is left by likeness of the drawing.
 * Comparing happens where the puppet has the part's artwork: what the rigger did with the part does not count as a change.
 */
import type { PartId } from '../kernel/ids'
import { pictureOf } from '../parts/pictures'
import type { Affine } from '../kernel/numbers'
import type { Drawing, Picture } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { drawingBounds, drawingOf, partsBelow, restMatrix } from '../parts/tree'
import { IDENTITY, invert, mapPoints, multiply, translation } from '../maths/geometry/affine'
import type { Bounds } from '../maths/geometry/bounds'
import { mapDrawing } from '../maths/geometry/shape'
import { sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** What became of a layer in a new version of its file. */
export type UpdateKind = 'same' | 'changed' | 'moved' | 'renamed' | 'added' | 'gone'

/** A layer of the new version and the part that it belongs to. */
export interface UpdateEntry {
  readonly kind: UpdateKind
  /** The part of the puppet; null for what was added. */
  readonly present: PartId | null
  /** The part of the new version; null for what is gone. */
  readonly incoming: PartId | null
  readonly by: 'identity' | 'path' | 'name' | 'likeness' | null
  /** A part may be renamed and changed at once. */
  readonly renamed: boolean
}

/** Names of the files that a puppet's parts came from. */
export const sourceFiles = (puppet: Puppet): string[] =>
  [...new Set(Object.values(puppet.parts).flatMap((p) => (p.source ? [p.source.file] : [])))].sort()

/**
 * Compares a puppet with a new version of one of its files, read into a puppet of its own.
 *
 * @param file which of the puppet's files it is
 * @returns an entry for each part of either, in painting order: first those of the new version, then what is gone
 */
export function compareVersions(puppet: Puppet, incoming: Puppet, file: string): UpdateEntry[] {
  const present = partsBelow(puppet, puppet.root).filter((p) => p.source?.file === file)
  const next = partsBelow(incoming, incoming.root).slice(1)
  const pairs = matchParts(puppet, present, incoming, next)
  const out = next.map((part): UpdateEntry => {
    const found = pairs.get(part.id)
    if (!found) return { kind: 'added', present: null, incoming: part.id, by: null, renamed: false }
    const old = partOf(puppet, found.present)
    const renamed = sure(old.source).path.at(-1) !== part.name
    const art = compareArt(puppet, old, incoming, part)
    const kind = art !== 'same' ? art : renamed ? 'renamed' : 'same'
    return { kind, present: old.id, incoming: part.id, by: found.by, renamed }
  })
  const matched = new Set([...pairs.values()].map((p) => p.present))
  const gone = present.filter((p) => !matched.has(p.id))
  return [...out, ...gone.map((p): UpdateEntry => ({ kind: 'gone', present: p.id, incoming: null, by: null, renamed: false }))]
}

interface Pair {
  readonly present: PartId
  readonly by: 'identity' | 'path' | 'name' | 'likeness'
}

function matchParts(puppet: Puppet, present: readonly Part[], incoming: Puppet, next: readonly Part[]): Map<PartId, Pair> {
  const pairs = new Map<PartId, Pair>()
  const free = new Set(present)
  const take = (by: Pair['by'], keyOf: (part: Part, puppet: Puppet) => string | null): void => {
    const open = next.filter((p) => !pairs.has(p.id))
    const [left, right] = [unique([...free], (p) => keyOf(p, puppet)), unique(open, (p) => keyOf(p, incoming))]
    for (const [key, part] of right) {
      const old = left.get(key)
      if (!old) continue
      pairs.set(part.id, { present: old.id, by })
      free.delete(old)
    }
  }
  take('identity', (p) => p.source?.key ?? null)
  take('path', (p) => p.source?.path.join('\u0001') ?? null)
  take('name', (p) => `${p.content.kind} ${p.source?.path.at(-1) ?? p.name}`)
  matchByLikeness(free, next, pairs, drawnLikeness(puppet, incoming))
  // Groups are alike by what they hold, which may be groups that have just been matched.
  for (let before = -1; before !== pairs.size;) {
    before = pairs.size
    matchByLikeness(free, next, pairs, (old, part) => groupLikeness(old, part, pairs))
  }
  return pairs
}

/** Parts by a key that only one of them has. */
function unique(parts: readonly Part[], keyOf: (part: Part) => string | null): Map<string, Part> {
  const out = new Map<string, Part | null>()
  for (const part of parts) {
    const key = keyOf(part)
    if (key !== null) out.set(key, out.has(key) ? null : part)
  }
  return new Map([...out].flatMap(([key, part]) => (part ? [[key, part] as const] : [])))
}

/** Overlap of boxes, from 0 to 1, at which two drawings are taken for versions of one. */
const ALIKE = 0.6

type Likeness = (old: Part, part: Part) => number

function matchByLikeness(free: Set<Part>, next: readonly Part[], pairs: Map<PartId, Pair>, likeness: Likeness): void {
  const rated = next
    .filter((p) => !pairs.has(p.id))
    .flatMap((part) => [...free].map((old) => ({ part, old, likeness: likeness(old, part) })))
    .filter((r) => r.likeness >= ALIKE)
    .sort((a, b) => b.likeness - a.likeness)
  for (const { part, old } of rated) {
    if (pairs.has(part.id) || !free.has(old)) continue
    pairs.set(part.id, { present: old.id, by: 'likeness' })
    free.delete(old)
  }
}

/** Of groups: how much of what they hold they have in common. */
function groupLikeness(old: Part, part: Part, pairs: ReadonlyMap<PartId, Pair>): number {
  if (old.content.kind !== 'group' || part.content.kind !== 'group') return 0
  const common = part.children.filter((id) => old.children.includes(pairs.get(id)?.present ?? '')).length
  return common / Math.max(1, part.children.length, old.children.length)
}

/** Of drawings and pictures: 1 for equal artwork, else how far their boxes on the file's canvas cover each other. */
function drawnLikeness(puppet: Puppet, incoming: Puppet): Likeness {
  const boxes = new Map<Part, Bounds | null>()
  const boxOf = (owner: Puppet, part: Part, map: () => Affine): Bounds | null => {
    if (!boxes.has(part)) boxes.set(part, artBox(owner, part, map()))
    return sure(boxes.get(part))
  }
  return (old, part) => {
    if (old.content.kind !== part.content.kind || part.content.kind === 'group') return 0
    const a = boxOf(puppet, old, () => sure(old.source).place)
    const b = boxOf(incoming, part, () => restMatrix(incoming, part.id))
    // Comparing artwork costs far more than comparing sizes, which are those of equal artwork anywhere.
    if (haveOneSize(a, b) && compareArt(puppet, old, incoming, part) !== 'changed') return 1
    return a && b ? coverage(a, b) : 0
  }
}

function artBox(puppet: Puppet, part: Part, map: Affine): Bounds | null {
  const drawing = drawingOf(puppet, part)
  return drawing && drawingBounds(drawing, map)
}

/** Whether two boxes are of one size, apart from rounding. */
function haveOneSize(a: Bounds | null, b: Bounds | null): boolean {
  if (!a || !b) return a === b
  const [dx, dy] = [a.maxX - a.minX - (b.maxX - b.minX), a.maxY - a.minY - (b.maxY - b.minY)]
  return Math.abs(dx) < 1 && Math.abs(dy) < 1
}

function coverage(a: Bounds, b: Bounds): number {
  const area = (x: Bounds): number => Math.max(0, x.maxX - x.minX) * Math.max(0, x.maxY - x.minY)
  const shared = area({
    minX: Math.max(a.minX, b.minX),
    minY: Math.max(a.minY, b.minY),
    maxX: Math.min(a.maxX, b.maxX),
    maxY: Math.min(a.maxY, b.maxY),
  })
  return shared / (area(a) + area(b) - shared || 1)
}

/** Takes the own space of a part of the new version to that of the puppet's part. */
export function frameOf(old: Part, incoming: Puppet, part: Part): Affine {
  const back = old.source && invert(old.source.place)
  return back ? multiply(back, restMatrix(incoming, part.id)) : IDENTITY
}

function compareArt(puppet: Puppet, old: Part, incoming: Puppet, part: Part): 'same' | 'moved' | 'changed' {
  if (old.content.kind !== part.content.kind) return 'changed'
  if (part.content.kind === 'group') return 'same'
  const [before, after] = [pictureOf(puppet, old), pictureOf(incoming, part)]
  const map = frameOf(old, incoming, part)
  if (before && after) return comparePictures(before, movedPicture(after, map))
  const [a, b] = [drawingOf(puppet, old), drawingOf(incoming, part)]
  if (!a || !b) return a === b ? 'same' : 'changed'
  return compareDrawings(a, mapDrawing(b, map))
}

/** A picture under a map that shifts and scales; turns and skews of a layer are in its pixels already. */
export const movedPicture = (picture: Picture, m: Affine): Picture => ({
  ...picture,
  x: m[0] * picture.x + m[2] * picture.y + m[4],
  y: m[1] * picture.x + m[3] * picture.y + m[5],
  scale: picture.scale * Math.hypot(m[0], m[1]),
  mesh: {
    ...picture.mesh,
    spacing: picture.mesh.spacing * Math.hypot(m[0], m[1]),
    vertices: mapPoints(m, picture.mesh.vertices),
  },
})

function comparePictures(a: Picture, b: Picture): 'same' | 'moved' | 'changed' {
  if (a.asset !== b.asset) return 'changed'
  return Math.hypot(a.x - b.x, a.y - b.y) < NEAR ? 'same' : 'moved'
}

/** Shifts smaller than this, px, are rounding. */
const NEAR = 0.02

function compareDrawings(a: Drawing, b: Drawing): 'same' | 'moved' | 'changed' {
  if (a === b) return 'same'
  const [p, q] = [drawingBounds(a), drawingBounds(b)]
  const shift = translation(p.minX - q.minX, p.minY - q.minY)
  if (printOf(a) !== printOf(mapDrawing(b, shift))) return 'changed'
  return Math.hypot(shift[4], shift[5]) < NEAR ? 'same' : 'moved'
}

/** A drawing as text, its numbers rounded and its ids left out, so that equal looks give equal texts. */
const printOf = ({ shapes }: Drawing): string =>
  JSON.stringify(shapes, (key: string, value: unknown) => {
    if (key === 'id' || key === 'ids' || key === 'drawing') return undefined
    return typeof value === 'number' ? Math.round(value * 10) / 10 : value
  })
