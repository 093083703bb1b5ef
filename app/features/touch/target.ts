/** What the touch-up tools work on: the drawing of the selected part as it is seen, and the way back to its rest. */
import { freePointId, freeShapeId } from '@marionette/core/artwork/numbering'
import { shownDrawing } from '@marionette/core/recording/shown'
import { FoldedError, restPath, writeBack } from '@marionette/core/touch/posedPaths'
import { snapTo, type Snapped } from '@marionette/core/artwork/touch/snap'
import { freshId } from '@marionette/core/kernel/ids'
import type { Drawing, Ink, Line, Part, Path, Shape, Vec } from '@marionette/core/puppet/schema'
import { changeArt } from '@marionette/core/joints/commands'
import { posedMap, type PosedMap } from '@marionette/core/puppet/posedMap'
import { apply } from '@marionette/core/maths/geometry/affine'
import { middleOf, pathBounds } from '@marionette/core/maths/geometry/bounds'
import type { ToolHost } from '../../stage/tool'
import { openPuppet, perform } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import { currentInk, useTouch } from './settings'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { newPart } from '@marionette/core/parts/new'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { partMap } from '@marionette/core/puppet/frame'
import { editorState, type Editor } from '../../editor/editor'
import { drawingBy } from '@marionette/core/artwork/art'
import { partOf } from '@marionette/core/parts/lookup'

export interface TouchTarget {
  readonly part: string
  /** The drawing at rest, and the same as it is seen. */
  readonly rest: Drawing
  readonly posed: Drawing
  readonly map: PosedMap
}

/** The selected part where it is a drawing that shows in this view. */
export function selectedDrawing(editor: Editor): { part: string; drawing: Drawing } | null {
  const { selection } = useSession.of(editor).getState()
  const [id] = selection.ids
  if (selection.kind !== 'part' || id === undefined) return null
  const puppet = openPuppet(editor)
  const drawing = drawingBy(puppet, puppet.parts[id]?.art[puppet.view] ?? '')
  return drawing ? { part: id, drawing } : null
}

interface Own {
  last: { key: readonly unknown[]; target: TouchTarget } | null
}

const stateOf = editorState((): Own => ({ last: null }))

/** The drawing of the selected part in the present pose; null where none is selected. */
export function touchTarget(host: ToolHost): TouchTarget | null {
  const own = stateOf(host.editor)
  const found = selectedDrawing(host.editor)
  if (!found) return null
  const { frame } = host.model
  const key = [found.drawing, found.part, frame, frame.revision]
  const { last } = own
  if (last && key.every((k, i) => k === last.key[i])) return last.target
  const map = posedMap(frame, found.part)
  const target = { part: found.part, rest: found.drawing, posed: shownDrawing(frame, found.part, found.drawing, map), map }
  own.last = { key, target }
  return target
}

/** The edits that make a posed drawing what it is wanted to be; null, with the reason said, where its rest cannot be told. */
export function touchEdits(editor: Editor, { rest, posed, map }: TouchTarget, wanted: Drawing): Edit[] | null {
  return orFolded(editor, () => [edit(changeArt, { drawings: [writeBack(rest, posed, wanted, map)], pictures: [] })])
}

function orFolded<T>(editor: Editor, run: () => T): T | null {
  try {
    return run()
  } catch (error) {
    if (!(error instanceof FoldedError)) throw error
    editor.notify.error(error.message, { id: 'folded' })
    return null
  }
}

/** Does an edit of the drawing at rest as one step. */
export function changeRest(editor: Editor, label: string, change: (drawing: Drawing) => Drawing | null): boolean {
  const found = selectedDrawing(editor)
  if (!found) return false
  const drawing = change(found.drawing)
  if (!drawing || drawing === found.drawing) return false
  return perform(editor, [edit(changeArt, { drawings: [drawing], pictures: [] })], label)
}

/** Does an edit of the drawing as it is seen as one step. */
export function changePosed(host: ToolHost, label: string, change: (posed: Drawing) => Drawing | null): boolean {
  const target = touchTarget(host)
  const wanted = target && change(target.posed)
  const edits = wanted && wanted !== target.posed ? touchEdits(host.editor, target, wanted) : null
  return edits !== null && perform(host.editor, edits, label)
}

/** Ink and line of new outlines. */
export function currentPaint(editor: Editor, closed: boolean): { ink: Ink | null; line: Line | null } {
  const { line, width } = useTouch.of(editor).getState()
  const { ink, swatch } = currentInk(openPuppet(editor).palette, useTouch.of(editor).getState())
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
  const paint = currentPaint(host.editor, drawn.closed)
  if (!paint.ink && !paint.line) return void host.editor.notify.error('Choose a colour for the fill or the line first.')
  const puppet = openPuppet(host.editor)
  const base: Drawing = target?.rest ?? { id: freshId('drawing'), shapes: [] }
  const map = target?.map ?? posedMap(host.model.frame, puppet.root)
  let next = freePointId(base)
  const fresh = (): number => next++
  const path = orFolded(host.editor, () => restPath({ ...drawn, ids: drawn.ids.map(fresh) }, map, fresh))
  if (!path) return
  const shape: Shape = { id: freeShapeId(base), paths: [path], ...paint, alpha: 1, lineFirst: false }
  const drawing = { ...base, shapes: [...base.shapes, shape] }
  if (target) return void perform(host.editor, [edit(changeArt, { drawings: [drawing], pictures: [] })], label)
  const count = Object.values(puppet.parts).filter((p) => /^Drawing \d+$/.test(p.name)).length
  const part: Part = {
    ...newPart(freshId('part'), `Drawing ${count + 1}`, { kind: 'drawing' }),
    art: { [puppet.view]: drawing.id },
    // A closed form turns about its middle, a line about where it was begun.
    pivot: path.closed ? middleOf(pathBounds(path)) : { x: path.anchors[0]!, y: path.anchors[1]! },
  }
  if (perform(host.editor, [edit(addArtwork, { parent: puppet.root, parts: [part], drawings: [drawing] })], label))
    selectParts(host.editor, part.id)
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
  if (!useTouch.of(host.editor).getState().snaps) return { at, by: { spot: null, guides: [] } }
  const spots: Vec[] = []
  const target = drawing ? null : touchTarget(host)
  for (const { paths } of target?.posed.shapes ?? [])
    for (const { ids, anchors } of paths) ids.forEach((id, i) => !but.has(id) && spots.push({ x: anchors[2 * i]!, y: anchors[2 * i + 1]! }))
  const { rig, frame } = host.model
  rig.parts.ids.forEach((id, p) => {
    if (pivots.has(id)) return
    spots.push(apply(partMap(frame, p), partOf(rig.puppet, id).pivot))
  })
  return snapTo(at, { spots, guides: openPuppet(host.editor).guides }, host.px(CATCH))
}
