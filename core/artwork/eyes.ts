/**
 * Building eyes that look and close: irises that show only in the white and follow a pad within an area of their own, lids whose
 * lower edge comes down to the rim of the white, and a blink that goes by itself.
 */
import { partChannel } from '../document/channels'
import type { PartId } from '../document/ids'
import { newControl, newResponse } from '../document/new'
import type { Change, ChangeOf, Control, Flipbook, Path, Puppet, Stop } from '../document/schema'
import { drawingOf, restBounds, restMatrix } from '../document/tree'
import { edit, type Edit } from '../edit/command'
import { addControl } from '../edit/controls'
import { setMasks } from '../edit/layering'
import { addResponse } from '../edit/responses'
import { setFlipbook } from '../edit/swaps'
import { flatten, mapPath } from '../geometry/path'
import { lowerStretches, movedPoints, widestOutline } from './outlineMoves'

export interface EyeParts {
  readonly white: PartId
  readonly iris: PartId
  readonly lid: PartId | null
  /** Lines that go along with the edge of the lid. */
  readonly lashes: readonly PartId[]
}

export interface EyesPlan {
  readonly eyes: readonly EyeParts[]
  /** How far irises go, as a share of the room that the white leaves them; more lets them go under its rim. */
  readonly reach: number
  /** Seconds from blink to blink. */
  readonly every: number
}

/** Why an eye cannot be built of its parts, in a sentence; null where it can. */
export function eyeProblem(puppet: Puppet, { white, iris, lid }: EyeParts): string | null {
  if (!restBounds(puppet, white) || !restBounds(puppet, iris)) return 'An eye needs a white and an iris that show something.'
  const drawing = lid === null ? null : drawingOf(puppet, puppet.parts[lid]!)
  if (lid !== null && (puppet.parts[lid]!.content.kind !== 'drawing' || !drawing || !widestOutline(drawing)))
    return 'A lid has to be a drawing with a closed outline, so that its edge can come down.'
  return null
}

/** Eight stops around rest: sides, and corners on the same ellipse. */
const AROUND = [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((x) => [x, y] as const)).filter(([x, y]) => x !== 0 || y !== 0)

const moved = (part: PartId, field: 'x' | 'y', by: number): Change[] =>
  Math.abs(by) < 1e-6 ? [] : [{ kind: 'channel', muted: false, scale: 1, channel: partChannel(part, field), by }]

function gazeChanges(puppet: Puppet, { white, iris }: EyeParts, reach: number, x: number, y: number): Change[] {
  const [w, i] = [restBounds(puppet, white)!, restBounds(puppet, iris)!]
  const room = (low: 'minX' | 'minY', high: 'maxX' | 'maxY'): number => Math.max(0, (w[high] - w[low] - (i[high] - i[low])) / 2)
  const size = Math.hypot(x, y)
  return [...moved(iris, 'x', (reach * room('minX', 'maxX') * x) / size), ...moved(iris, 'y', (-reach * room('minY', 'maxY') * y) / size)]
}

/** A curve stays within its handles: how far they have to go, in shares of the way to the rim, for it to reach a depth. */
function beyondFor(depthAt: (beyond: number) => number, wanted: number): number {
  let beyond = 1
  while (beyond < 3 && depthAt(beyond) < wanted) beyond += 0.02
  return beyond
}

/** Canvas y of the lowest spot of an outline once a change has moved it. */
function lowestOf(puppet: Puppet, part: PartId, path: Path, { ids, by }: ChangeOf<'points'>): number {
  const at = new Map(ids.map((id, k) => [id, 6 * k]))
  const shift = (i: number, k: number): number => by[(at.get(path.ids[i]!) ?? NaN) + k] ?? 0
  const moved: Path = {
    ...path,
    anchors: path.anchors.map((v, k) => v + shift(k >> 1, k & 1)),
    handles: path.handles.map((v, k) => v + shift(k >> 2, 2 + (k & 3))),
  }
  const points = flatten(mapPath(moved, restMatrix(puppet, part)), 0.1)
  return Math.max(...points.filter((_, k) => k % 2 === 1))
}

/** The lower edge of the lid, and its lashes, come down to the rim of the white. */
function closing(puppet: Puppet, { white, lid, lashes }: EyeParts): Change[] {
  const box = restBounds(puppet, white)!
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const [rx, ry] = [(box.maxX - box.minX) / 2, (box.maxY - box.minY) / 2]
  const rimAt = (x: number, beyond: number): number => cy + beyond * ry * Math.sqrt(Math.max(0, 1 - ((x - cx) / (1.06 * rx)) ** 2))
  const drawing = lid === null ? null : drawingOf(puppet, puppet.parts[lid]!)
  const main = drawing && widestOutline(drawing)
  const lower = main ? lowerStretches(main) : []
  const closedTo = (beyond: number): ChangeOf<'points'> =>
    movedPoints(puppet, lid!, drawing!, ({ x, y }, path, stretch) =>
      path === main && lower[stretch] ? [0, Math.max(0, rimAt(x, beyond) - y)] : [0, 0],
    )
  const lids = main ? [closedTo(beyondFor((k) => lowestOf(puppet, lid!, main, closedTo(k)), cy + ry + 1))] : []
  const lines = lashes.flatMap((part) => {
    const line = drawingOf(puppet, puppet.parts[part]!)
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

/** The edits that build eyes: masks, a pad for where they look, a slider for the lids, and a blink by itself. */
export function eyesEdits(puppet: Puppet, { eyes, reach, every }: EyesPlan, id: string): Edit[] {
  const masks = eyes.map(({ white, iris }) =>
    edit(setMasks, { part: iris, masks: [...puppet.parts[iris]!.masks, { shape: white, keep: 'inside' as const, by: 'area' as const }] }),
  )
  const gaze: Control = { ...newControl(`${id}-gaze`, 'Gaze', 'pad'), group: 'Eyes', colour: 6, symmetric: true }
  const around = AROUND.map(([x, y], k): Stop => {
    return { id: `s${k + 1}`, at: [x, y], changes: eyes.flatMap((eye) => gazeChanges(puppet, eye, reach, x, y)) }
  })
  const looks = {
    ...newResponse(
      `${id}-gaze-answer`,
      'Gaze',
      'pad',
      (['x', 'y'] as const).map((axis) => ({ kind: 'channel' as const, channel: `control/${gaze.id}/${axis}` })),
    ),
    ...{ between: 'even' as const, stops: around.filter((s) => s.changes.length > 0) },
  }
  const out = [...masks, edit(addControl, { control: gaze }), edit(addResponse, { response: looks })]
  const closed = eyes.flatMap((eye) => closing(puppet, eye))
  if (closed.length === 0) return out
  const lids: Control = { ...newControl(`${id}-lids`, 'Lids'), group: 'Eyes', colour: 6, range: { min: 0, max: 1, rest: 0 } }
  const channel = `control/${lids.id}/value`
  const closes = {
    ...newResponse(`${id}-lids-answer`, 'Lids close', 'ruler', [{ kind: 'channel', channel }]),
    ...{ between: 'even' as const, stops: [{ id: 's1', at: [1], changes: closed }] },
  }
  const blink: Flipbook = {
    ...{ id: `${id}-blink`, name: 'Blink', channel, pictures: [0.6, 1, 1, 0.5], hold: 0.04, way: 'forward', ends: 'once' },
    timer: { every, vary: 0.6, seed: 1 },
  }
  return [...out, edit(addControl, { control: lids }), edit(addResponse, { response: closes }), edit(setFlipbook, { flipbook: blink })]
}
