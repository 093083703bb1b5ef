/** What makes a puppet heavy, and what merging groups to pictures would save. */
import type { PartId } from '../kernel/ids'
import { pictureOf } from '../parts/pictures'
import type { Part, Puppet } from '../puppet/schema'
import { drawingOf, drawnParts, partsBelow, restBounds } from '../parts/tree'

/** A group that is worth merging into one picture. */
export interface HeavyGroup {
  readonly part: PartId
  readonly name: string
  /** Parts in it that show something. */
  readonly layers: number
  /** Points of drawings in it. */
  readonly points: number
  /** Memory of its pictures, bytes. */
  readonly bytes: number
  /** Memory of the one picture at full size, bytes. */
  readonly mergedBytes: number
}

/** A group is worth a word from any of these on: parts that show something, points, or bytes if merging saves a third. */
const MANY_LAYERS = 40
const MANY_POINTS = 4000
const MANY_BYTES = 48 * 2 ** 20
const SAVING = 2 / 3
/** A pixel has four bytes, and reduced levels add a third. */
const BYTES = 4 * (4 / 3)

/** Groups whose merging would save layers, points or memory, the heaviest first; of nested ones the outermost that no bone divides. */
export function heavyGroups(puppet: Puppet): HeavyGroup[] {
  const out: HeavyGroup[] = []
  const look = (part: Part): void => {
    if (part.content.kind !== 'group' || part.merged !== null) return
    const group = part.parent === null || isDivided(puppet, part) ? null : weigh(puppet, part)
    if (group && isHeavy(group)) out.push(group)
    else for (const child of part.children) look(puppet.parts[child]!)
  }
  look(puppet.parts[puppet.root]!)
  return out.sort((a, b) => costOf(b) - costOf(a))
}

const isHeavy = (g: HeavyGroup): boolean =>
  g.layers >= MANY_LAYERS || g.points >= MANY_POINTS || (g.bytes >= MANY_BYTES && g.mergedBytes < SAVING * g.bytes)

const costOf = (g: HeavyGroup): number => g.bytes + 200 * g.points + 50_000 * g.layers

/** Whether something in the group moves by itself, or masks from within what is outside. */
function isDivided(puppet: Puppet, group: Part): boolean {
  const inside = partsBelow(puppet, group.id).slice(1)
  const ids = new Set(inside.map((p) => p.id))
  const masksOutside = Object.values(puppet.parts).some((p) => !ids.has(p.id) && p.id !== group.id && p.masks.some((m) => ids.has(m.shape)))
  return masksOutside || inside.some((p) => p.bind !== null)
}

function weigh(puppet: Puppet, group: Part): HeavyGroup | null {
  const shown = drawnParts(puppet, group.id).filter((p) => drawingOf(puppet, p))
  const box = restBounds(puppet, group.id)
  if (!box || shown.length < 2) return null
  const pictures = shown.flatMap((p) => pictureOf(puppet, p) ?? [])
  const drawings = shown.flatMap((p) => (pictureOf(puppet, p) ? [] : (drawingOf(puppet, p) ?? [])))
  const points = drawings.reduce(
    (sum, d) => sum + d.shapes.reduce((s, shape) => s + shape.paths.reduce((n, path) => n + path.ids.length, 0), 0),
    0,
  )
  return {
    part: group.id,
    name: group.name,
    layers: shown.length,
    points,
    bytes: Math.round(pictures.reduce((sum, p) => sum + p.width * p.height * BYTES, 0)),
    mergedBytes: Math.round((box.maxX - box.minX) * (box.maxY - box.minY) * BYTES),
  }
}
