/** What the touch-up tools work on: the drawing of the selected part as it is seen, and the way back to its rest. */
import { toast } from 'sonner'
import { freePointId, freeShapeId } from '@marionette/core/document/drawings'
import { shownDrawing } from '@marionette/core/record/shown'
import { FoldedError, restPath, writeBack } from '@marionette/core/artwork/touch/posedPaths'
import { snapTo, type Snapped } from '@marionette/core/artwork/touch/snap'
import { freshId } from '@marionette/core/document/ids'
import { newPart } from '@marionette/core/document/new'
import type { Drawing, Ink, Line, Part, Path, Shape, Vec } from '@marionette/core/document/schema'
import { edit, type Edit } from '@marionette/core/edit/command'
import { changeArt } from '@marionette/core/edit/joints'
import { addArtwork } from '@marionette/core/edit/parts'
import { partMap } from '@marionette/core/rig/evaluate'
import { posedMap, type PosedMap } from '@marionette/core/rig/posedMap'
import { apply } from '@marionette/core/geometry/affine'
import type { ToolHost } from '../stage/tools/tool'
import { openPuppet, perform } from '../state/document'
import { selectParts, useSession } from '../state/session'
import { currentInk, useTouch } from '../state/touch'

export interface TouchTarget {
  readonly part: string
  /** The drawing at rest, and the same as it is seen. */
  readonly rest: Drawing
  readonly posed: Drawing
  readonly map: PosedMap
}

/** The selected part where it is a drawing that shows in this view. */
export function selectedDrawing(): { part: string; drawing: Drawing } | null {
  const { selection } = useSession.getState()
  const [id] = selection.ids
  if (selection.kind !== 'part' || id === undefined) return null
  const puppet = openPuppet()
  const drawing = puppet.drawings[puppet.parts[id]?.art[puppet.view] ?? '']
  return drawing ? { part: id, drawing } : null
}

let last: { key: readonly unknown[]; target: TouchTarget } | null = null

/** The drawing of the selected part in the present pose; null where none is selected. */
export function touchTarget(host: ToolHost): TouchTarget | null {
  const found = selectedDrawing()
  if (!found) return null
  const { frame } = host.model
  const key = [found.drawing, found.part, frame, frame.revision]
  if (last && key.every((k, i) => k === last!.key[i])) return last.target
  const map = posedMap(frame, found.part)
  const target = { part: found.part, rest: found.drawing, posed: shownDrawing(frame, found.part, found.drawing, map), map }
  last = { key, target }
  return target
}

/** The edits that make a posed drawing what it is wanted to be; null, with the reason said, where its rest cannot be told. */
export function touchEdits({ rest, posed, map }: TouchTarget, wanted: Drawing): Edit[] | null {
  return orFolded(() => [edit(changeArt, { drawings: [writeBack(rest, posed, wanted, map)], pictures: [] })])
}

function orFolded<T>(run: () => T): T | null {
  try {
    return run()
  } catch (error) {
    if (!(error instanceof FoldedError)) throw error
    toast.error(error.message, { id: 'folded' })
    return null
  }
}

/** Does an edit of the drawing at rest as one step. */
export function changeRest(label: string, change: (drawing: Drawing) => Drawing | null): boolean {
  const found = selectedDrawing()
  if (!found) return false
  const drawing = change(found.drawing)
  if (!drawing || drawing === found.drawing) return false
  return perform([edit(changeArt, { drawings: [drawing], pictures: [] })], label)
}

/** Does an edit of the drawing as it is seen as one step. */
export function changePosed(host: ToolHost, label: string, change: (posed: Drawing) => Drawing | null): boolean {
  const target = touchTarget(host)
  const wanted = target && change(target.posed)
  const edits = wanted && wanted !== target.posed ? touchEdits(target, wanted) : null
  return edits !== null && perform(edits, label)
}

/** Ink and line of new outlines. */
export function currentPaint(closed: boolean): { ink: Ink | null; line: Line | null } {
  const { line, width } = useTouch.getState()
  const { ink, swatch } = currentInk(openPuppet().palette, useTouch.getState())
  return {
    ink:
      closed && ink !== null
        ? { paint: { kind: 'flat', colour: ink, ...(swatch !== null && { swatch }) }, alpha: 1, rule: 'nonzero' }
        : null,
    line:
      line === null || width === 0
        ? null
        : { paint: { kind: 'flat', colour: line }, alpha: 1, width, cap: 'round', join: 'round', miter: 4, dash: null, pen: null },
  }
}

/** Adds an outline that was drawn on the canvas: to the selected drawing, or as a new part. */
export function addOutline(host: ToolHost, label: string, drawn: Path): void {
  const target = touchTarget(host)
  const paint = currentPaint(drawn.closed)
  if (!paint.ink && !paint.line) return void toast.error('Choose a colour for the ink or the line first.')
  const puppet = openPuppet()
  const base: Drawing = target?.rest ?? { id: freshId('drawing'), shapes: [] }
  const map = target?.map ?? posedMap(host.model.frame, puppet.root)
  let next = freePointId(base)
  const fresh = (): number => next++
  const path = orFolded(() => restPath({ ...drawn, ids: drawn.ids.map(fresh) }, map, fresh))
  if (!path) return
  const shape: Shape = { id: freeShapeId(base), paths: [path], ...paint, alpha: 1, lineFirst: false }
  const drawing = { ...base, shapes: [...base.shapes, shape] }
  if (target) return void perform([edit(changeArt, { drawings: [drawing], pictures: [] })], label)
  const count = Object.values(puppet.parts).filter((p) => /^Drawing \d+$/.test(p.name)).length
  const part: Part = {
    ...newPart(freshId('part'), `Drawing ${count + 1}`, { kind: 'drawing' }),
    art: { [puppet.view]: drawing.id },
    pivot: { x: path.anchors[0]!, y: path.anchors[1]! },
  }
  if (perform([edit(addArtwork, { parent: puppet.root, parts: [part], drawings: [drawing] })], label)) selectParts(part.id)
}

/** Screen distance at which a spot is caught. */
const CATCH = 8

/** What catches nothing because it moves along: points, pivots of parts, or the whole selected drawing. */
interface Moving {
  readonly points?: ReadonlySet<number>
  readonly pivots?: ReadonlySet<string>
  readonly drawing?: boolean
}

/** A spot, caught by points, pivots and guides where that is asked for. */
export function caught(host: ToolHost, at: Vec, { points: but = new Set(), pivots = new Set(), drawing = false }: Moving = {}): Snapped {
  if (!useTouch.getState().snaps) return { at, by: { spot: null, guides: [] } }
  const spots: Vec[] = []
  const target = drawing ? null : touchTarget(host)
  for (const { paths } of target?.posed.shapes ?? [])
    for (const { ids, anchors } of paths) ids.forEach((id, i) => !but.has(id) && spots.push({ x: anchors[2 * i]!, y: anchors[2 * i + 1]! }))
  const { rig, frame } = host.model
  rig.parts.ids.forEach((id, p) => {
    if (pivots.has(id)) return
    spots.push(apply(partMap(frame, p), rig.puppet.parts[id]!.pivot))
  })
  return snapTo(at, { spots, guides: openPuppet().guides }, host.px(CATCH))
}
