/**
 * Moving and turning a part by hand. Two tools share it: Rest position changes where the part stands at rest, Move poses the
 * part away from there.
 */
import { Home, Move } from 'lucide-react'
import type { Affine, Vec } from '@marionette/core/puppet/schema'
import { partsBelow } from '@marionette/core/parts/tree'
import { setHome } from '@marionette/core/parts/commands'
import { setPose } from '@marionette/core/poses/commands'
import { seenValue } from '@marionette/core/recording/inverse'
import { apply, invert, multiply, placementMatrix } from '@marionette/core/maths/geometry/affine'
import { nearestTurn, turnBetween } from '@marionette/core/maths/solve/reach'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../editor/document'
import { ownNow } from '../../editor/poseInverse'
import { selectNothing, selectParts, useSession } from '../../editor/session'
import { caught } from '../touch/target'
import { toScreen } from '../../stage/camera'
import { markHover, nextPartUnder, partsUnder } from '../../stage/pick'
import type { Tool, ToolHost, ToolIcon } from '../../stage/tool'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Placement } from '@marionette/core/parts/records'
import { partChannel } from '@marionette/core/parts/channels'
import { partMap } from '@marionette/core/puppet/frame'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

/** Screen distance of the turning handle from the pivot. */
const HANDLE = 56

type Mode = 'home' | 'pose'
type State =
  | { at: 'idle' }
  | { at: 'pointing'; part: string; from: Vec }
  | { at: 'moving' | 'turning'; part: string; from: Vec; pivot: Vec; back: Affine; start: Placement }

/** Posed offset of a part as a placement, as it is seen. */
function offsetOf({ model }: ToolHost, part: string): Placement {
  const read = (field: 'x' | 'y' | 'angle' | 'scaleX' | 'scaleY'): number => seenValue(model.frame, partChannel(part, field))
  return { x: read('x'), y: read('y'), angle: read('angle'), scaleX: read('scaleX'), scaleY: read('scaleY'), skew: 0 }
}

const rounded = (v: number): number => Math.round(v * 100) / 100

function editOf(mode: Mode, host: ToolHost, part: string, to: Placement): Edit {
  if (mode === 'home') return edit(setHome, { part, home: to })
  const seen = { [partChannel(part, 'x')]: to.x, [partChannel(part, 'y')]: to.y, [partChannel(part, 'angle')]: to.angle }
  return edit(setPose, { values: ownNow(host.editor, host.model.frame, seen) })
}

/** Where the part's pivot is on the stage, and the map from its placement's space to the canvas. */
function standing(mode: Mode, host: ToolHost, part: string): { pivot: Vec; outer: Affine } | null {
  const puppet = openPuppet(host.editor)
  const { rig, frame } = host.model
  const p = rig.parts.index.get(part)
  if (p === undefined) return null
  const full = partMap(frame, p)
  const { home, pivot } = partOf(puppet, part)
  // The placement acts inside everything above the part: undo what the part itself adds.
  const own = mode === 'home' ? placementMatrix(home, pivot) : placementMatrix(offsetOf(host, part), pivot)
  const back = invert(own)
  if (!back) return null
  return { pivot: apply(full, pivot), outer: multiply(full, back) }
}

const selectedPart = (editor: Editor): string | null => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' && selection.ids.length === 1 ? nth(selection.ids, 0) : null
}

const handleOf = (host: ToolHost, pivot: Vec): Vec => ({ x: pivot.x, y: pivot.y - host.px(HANDLE) })

/** The spot of the pointer for which the moved part's pivot is caught. */
function caughtPivot(host: ToolHost, { part, from, pivot }: { part: string; from: Vec; pivot: Vec }, at: Vec): Vec {
  const along = new Set(partsBelow(openPuppet(host.editor), part).map((p) => p.id))
  const wanted = { x: pivot.x + at.x - from.x, y: pivot.y + at.y - from.y }
  const { x, y } = caught(host, wanted, { pivots: along, drawing: true }).at
  return { x: at.x + x - wanted.x, y: at.y + y - wanted.y }
}

function makePlaceTool(mode: Mode, id: string, name: string, icon: ToolIcon, hint: Tool['hint']): Tool {
  const stateOf = editorState((): { now: State } => ({ now: { at: 'idle' } }))
  const startDrag = (at: 'moving' | 'turning', part: string, from: Vec, host: ToolHost): void => {
    const place = standing(mode, host, part)
    const back = place && invert(place.outer)
    if (!place || !back) return
    const puppet = openPuppet(host.editor)
    beginGesture(
      host.editor,
      `${at === 'moving' ? 'Move' : 'Turn'} ${mode === 'home' ? 'rest position of ' : ''}${partOf(puppet, part).name}`,
    )
    stateOf(host.editor).now = {
      at,
      part,
      from,
      pivot: place.pivot,
      back,
      start: mode === 'home' ? partOf(puppet, part).home : offsetOf(host, part),
    }
  }
  return {
    id,
    name,
    icon,
    hint,
    cursor: 'default',
    cursorAt(at, host) {
      const part = selectedPart(host.editor)
      const place = part ? standing(mode, host, part) : null
      if (place) {
        const handle = handleOf(host, place.pivot)
        if (Math.hypot(handle.x - at.x, handle.y - at.y) < host.px(10)) return 'grab'
      }
      return partsUnder(host, at).length > 0 ? 'move' : null
    },
    pointer(event, host) {
      const own = stateOf(host.editor)
      if (event.type === 'cancel') return this.cancel(host.editor)
      if (event.type === 'hover') return markHover(host.editor, 'part', partsUnder(host, event.at)[0])
      if (event.type === 'down') {
        const chosen = selectedPart(host.editor)
        const place = chosen ? standing(mode, host, chosen) : null
        const handle = place && handleOf(host, place.pivot)
        if (chosen && handle && Math.hypot(handle.x - event.at.x, handle.y - event.at.y) < host.px(10))
          return startDrag('turning', chosen, event.at, host)
        const stack = partsUnder(host, event.at)
        const isInside = chosen !== null && stack.some((id) => id === chosen || isBelow(host.editor, id, chosen))
        const part = isInside ? chosen : stack[0]
        if (!part) return selectNothing(host.editor)
        if (part !== chosen) selectParts(host.editor, part)
        own.now = { at: 'pointing', part, from: event.at }
        return
      }
      if (own.now.at === 'pointing') {
        if (event.type === 'up') {
          const next = nextPartUnder(partsUnder(host, event.at), own.now.part)
          if (next && !event.dragging && next !== own.now.part && event.shift) selectParts(host.editor, next)
          own.now = { at: 'idle' }
        } else if (event.dragging) startDrag('moving', own.now.part, own.now.from, host)
      }
      const state = own.now
      if (state.at !== 'moving' && state.at !== 'turning') return
      if (event.type === 'up') {
        commitGesture(host.editor)
        own.now = { at: 'idle' }
        return
      }
      updateGesture(host.editor, [
        editOf(mode, host, state.part, dragged(state, state.at === 'moving' ? caughtPivot(host, state, event.at) : event.at)),
      ])
    },
    draw(context, host) {
      const part = selectedPart(host.editor)
      const place = part ? standing(mode, host, part) : null
      if (!place) return
      const colours = currentTheme(host.editor)
      const pivot = toScreen(host.camera, place.pivot)
      context.strokeStyle = colours.cord
      context.fillStyle = colours.panel
      context.lineWidth = 1.5
      context.beginPath()
      context.moveTo(pivot.x, pivot.y - 8)
      context.lineTo(pivot.x, pivot.y - HANDLE + 6)
      context.stroke()
      context.beginPath()
      context.arc(pivot.x, pivot.y - HANDLE, 6, 0, 2 * Math.PI)
      context.fill()
      context.stroke()
    },
    cancel(editor) {
      const own = stateOf(editor)
      if (own.now.at === 'moving' || own.now.at === 'turning') cancelGesture(editor)
      own.now = { at: 'idle' }
    },
  }
}

/** Whether a part hangs somewhere below another. */
function isBelow(editor: Editor, part: string, ancestor: string): boolean {
  const { parts } = sure(useDocument.of(editor).getState().puppet)
  for (let id: string | null = part; id !== null; id = parts[id]?.parent ?? null) if (id === ancestor) return true
  return false
}

/** The placement after dragging to a spot. */
function dragged(state: Extract<State, { at: 'moving' | 'turning' }>, to: Vec): Placement {
  const a = apply(state.back, state.from)
  const b = apply(state.back, to)
  if (state.at === 'moving') return { ...state.start, x: rounded(state.start.x + b.x - a.x), y: rounded(state.start.y + b.y - a.y) }
  const centre = apply(state.back, state.pivot)
  const turn = turnBetween({ x: a.x - centre.x, y: a.y - centre.y }, { x: b.x - centre.x, y: b.y - centre.y })
  return { ...state.start, angle: rounded(nearestTurn(state.start.angle + turn, state.start.angle)) }
}

export const homeTool = makePlaceTool('home', 'home', 'Rest position', Home, [
  ['Drag a part', 'to change where it stands at rest'],
  ['the round handle', 'turns it about its pivot'],
])

export const movePartTool = makePlaceTool('pose', 'move', 'Move part', Move, [
  ['Drag a part', 'to pose it by hand'],
  ['the round handle', 'turns it about its pivot'],
])
