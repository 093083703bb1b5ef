/** Lids: edges that come down to the rim of the white, alternates at several heights, and whites that are squinted. */
import type { PartId } from '../kernel/ids'
import type { Change, ChangeOf } from '../responses/records'
import type { Path } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { drawingOf, restBounds, restMatrix } from '../parts/tree'
import { flatten, mapPath } from '../maths/geometry/path'
import { lowerStretches, movedPoints, widestOutline } from './outlineMoves'
import { partChannel } from '../parts/channels'
import type { EyeParts } from './eyeParts'
import { nth, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** A curve stays within its handles: how far they have to go, in shares of the way to the rim, for it to reach a depth. */
function beyondFor(depthAt: (beyond: number) => number, wanted: number): number {
  let beyond = 1
  while (beyond < 3 && depthAt(beyond) < wanted) beyond += 0.02
  return beyond
}

/** Canvas y of the lowest spot of an outline once a change has moved it. */
function lowestOf(puppet: Puppet, part: PartId, path: Path, { ids, by }: ChangeOf<'points'>): number {
  const at = new Map(ids.map((id, k) => [id, 6 * k]))
  const shift = (i: number, k: number): number => by[(at.get(nth(path.ids, i)) ?? NaN) + k] ?? 0
  const moved: Path = {
    ...path,
    anchors: path.anchors.map((v, k) => v + shift(k >> 1, k & 1)),
    handles: path.handles.map((v, k) => v + shift(k >> 2, 2 + (k & 3))),
  }
  const points = flatten(mapPath(moved, restMatrix(puppet, part)), 0.1)
  return Math.max(...points.filter((_, k) => k % 2 === 1))
}

/** The lower edge of a drawn lid, and its lashes, come down to the rim of the white. */
export function closing(puppet: Puppet, { white, lid, lashes }: EyeParts): Change[] {
  const box = sure(restBounds(puppet, white))
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const [rx, ry] = [(box.maxX - box.minX) / 2, (box.maxY - box.minY) / 2]
  const rimAt = (x: number, beyond: number): number => cy + beyond * ry * Math.sqrt(Math.max(0, 1 - ((x - cx) / (1.06 * rx)) ** 2))
  const drawing = lid === null || partOf(puppet, lid).swap ? null : drawingOf(puppet, partOf(puppet, lid))
  const main = drawing && widestOutline(drawing)
  const lower = main ? lowerStretches(main) : []
  const closedTo = (beyond: number): ChangeOf<'points'> =>
    movedPoints(puppet, sure(lid), sure(drawing), ({ x, y }, path, stretch) =>
      path === main && lower[stretch] ? [0, Math.max(0, rimAt(x, beyond) - y)] : [0, 0],
    )
  const lids = main ? [closedTo(beyondFor((k) => lowestOf(puppet, sure(lid), main, closedTo(k)), cy + ry + 1))] : []
  const lines = lashes.flatMap((part) => {
    const line = drawingOf(puppet, partOf(puppet, part))
    const own = restBounds(puppet, part)
    if (!line || !own) return []
    // A line that arches over the eye lies under it when closed: its middle on the rim, its ends a little lower.
    const ends = 0.9 * (cy - own.maxY)
    const reach = (4 * (cy + ry) - own.maxY - ends) / 3
    return [
      movedPoints(puppet, part, line, ({ x, y }) => {
        const within = Math.sqrt(Math.max(0, 1 - ((x - cx) / rx) ** 2))
        return [0.9 * within * (x - cx), within * (reach - y) + (1 - within) * ends]
      }),
    ]
  })
  return [...lids, ...lines].filter((c) => c.ids.length > 0)
}

/** Alternates of a lid from the one that shows at rest to the lowest, each with how far down it is, 0 to 1. */
export function heightsOf(puppet: Puppet, lid: PartId): { readonly alternate: number; readonly at: number }[] {
  const { swap, children } = partOf(puppet, lid)
  if (!swap) return []
  const all = children.flatMap((id) => {
    const box = restBounds(puppet, id)
    return box ? [{ alternate: partOf(puppet, id).alternate, low: box.maxY }] : []
  })
  const rest = all.find((a) => a.alternate === swap.initial)?.low ?? -Infinity
  const lower = all.filter((a) => a.low > rest || a.alternate === swap.initial).sort((p, q) => p.low - q.low)
  return lower.map(({ alternate }, k) => ({ alternate, at: lower.length > 1 ? k / (lower.length - 1) : 0 }))
}

/** What shows an alternate of a lid. */
export const lidChoice = (lid: PartId, alternate: number): Change => ({
  ...{ kind: 'choice', muted: false, scale: 1 },
  ...{ channel: partChannel(lid, 'alternate'), to: alternate },
})

/** Share of the height of the white that its lower rim rises by in a squint, and that the lid comes down by. */
const RISES = 0.3
const COMES_DOWN = 0.35

/** The lower rim of a drawn white rises, the lid comes down a little. */
export function squinting(puppet: Puppet, eye: EyeParts): Change[] {
  const drawing = drawingOf(puppet, partOf(puppet, eye.white))
  const main = partOf(puppet, eye.white).content.kind === 'drawing' && drawing ? widestOutline(drawing) : null
  if (!main || !drawing) return []
  const box = sure(restBounds(puppet, eye.white))
  const middle = (box.minY + box.maxY) / 2
  const rise = (y: number): number => -RISES * 2 * Math.max(0, y - middle)
  return [
    movedPoints(puppet, eye.white, drawing, ({ y }) => [0, rise(y)]),
    ...closing(puppet, eye).map((change) => ({ ...change, scale: COMES_DOWN })),
  ].filter((c) => c.kind !== 'points' || c.ids.length > 0)
}
