/**
 * Moving and turning a part by hand. Two tools share it: Home changes where the part stands at rest, Move poses the
 * part away from there.
 */
import { Home, Move } from 'lucide-react'
import { partChannel } from '@marionette/core/document/channels'
import type { Affine, Placement, Vec } from '@marionette/core/document/schema'
import { partsBelow } from '@marionette/core/document/tree'
import { edit, type Edit } from '@marionette/core/edit/command'
import { setHome } from '@marionette/core/edit/parts'
import { setPose } from '@marionette/core/edit/pose'
import { seenValue } from '@marionette/core/record/own'
import { apply, invert, multiply, placementMatrix } from '@marionette/core/geometry/affine'
import { partMap } from '@marionette/core/rig/evaluate'
import { nearestTurn, turnBetween } from '@marionette/core/solve/reach'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../state/document'
import { ownNow } from '../../state/own'
import { selectNothing, selectParts, useSession } from '../../state/session'
import { caught } from '../../touch/target'
import { toScreen } from '../camera'
import { currentTheme } from '../overlay'
import { markHover, nextPartUnder, partsUnder } from './pick'
import type { Tool, ToolHost, ToolIcon } from './tool'

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
  return edit(setPose, { values: ownNow(host.model.frame, seen) })
}

/** Where the part's pivot is on the stage, and the map from its placement's space to the canvas. */
function standing(mode: Mode, host: ToolHost, part: string): { pivot: Vec; outer: Affine } | null {
  const puppet = openPuppet()
  const { rig, frame } = host.model
  const p = rig.parts.index.get(part)
  if (p === undefined) return null
  const full = partMap(frame, p)
  const { home, pivot } = puppet.parts[part]!
  // The placement acts inside everything above the part: undo what the part itself adds.
  const own = mode === 'home' ? placementMatrix(home, pivot) : placementMatrix(offsetOf(host, part), pivot)
  const back = invert(own)
  if (!back) return null
  return { pivot: apply(full, pivot), outer: multiply(full, back) }
}

const selectedPart = (): string | null => {
  const { selection } = useSession.getState()
  return selection.kind === 'part' && selection.ids.length === 1 ? selection.ids[0]! : null
}

const handleOf = (host: ToolHost, pivot: Vec): Vec => ({ x: pivot.x, y: pivot.y - host.px(HANDLE) })

/** The spot of the pointer for which the moved part's pivot is caught. */
function caughtPivot(host: ToolHost, { part, from, pivot }: { part: string; from: Vec; pivot: Vec }, at: Vec): Vec {
  const along = new Set(partsBelow(openPuppet(), part).map((p) => p.id))
  const wanted = { x: pivot.x + at.x - from.x, y: pivot.y + at.y - from.y }
  const { x, y } = caught(host, wanted, { pivots: along, drawing: true }).at
  return { x: at.x + x - wanted.x, y: at.y + y - wanted.y }
}

function makePlaceTool(mode: Mode, id: string, name: string, icon: ToolIcon, hint: Tool['hint']): Tool {
  let state: State = { at: 'idle' }
  const startDrag = (at: 'moving' | 'turning', part: string, from: Vec, host: ToolHost): void => {
    const place = standing(mode, host, part)
    const back = place && invert(place.outer)
    if (!place || !back) return
    const puppet = openPuppet()
    beginGesture(`${at === 'moving' ? 'Move' : 'Turn'} ${mode === 'home' ? 'home of ' : ''}${puppet.parts[part]!.name}`)
    state = { at, part, from, pivot: place.pivot, back, start: mode === 'home' ? puppet.parts[part]!.home : offsetOf(host, part) }
  }
  return {
    id,
    name,
    icon,
    hint,
    cursor: 'default',
    cursorAt(at, host) {
      const part = selectedPart()
      const place = part ? standing(mode, host, part) : null
      if (place) {
        const handle = handleOf(host, place.pivot)
        if (Math.hypot(handle.x - at.x, handle.y - at.y) < host.px(10)) return 'grab'
      }
      return partsUnder(host, at).length > 0 ? 'move' : null
    },
    pointer(event, host) {
      if (event.type === 'cancel') return this.cancel()
      if (event.type === 'hover') return markHover('part', partsUnder(host, event.at)[0])
      if (event.type === 'down') {
        const chosen = selectedPart()
        const place = chosen ? standing(mode, host, chosen) : null
        const handle = place && handleOf(host, place.pivot)
        if (chosen && handle && Math.hypot(handle.x - event.at.x, handle.y - event.at.y) < host.px(10))
          return startDrag('turning', chosen, event.at, host)
        const stack = partsUnder(host, event.at)
        const isInside = chosen !== null && stack.some((id) => id === chosen || isBelow(id, chosen))
        const part = isInside ? chosen : stack[0]
        if (!part) return selectNothing()
        if (part !== chosen) selectParts(part)
        state = { at: 'pointing', part, from: event.at }
        return
      }
      if (state.at === 'pointing') {
        if (event.type === 'up') {
          const next = nextPartUnder(partsUnder(host, event.at), state.part)
          if (next && !event.dragging && next !== state.part && event.shift) selectParts(next)
          state = { at: 'idle' }
        } else if (event.dragging) startDrag('moving', state.part, state.from, host)
      }
      if (state.at !== 'moving' && state.at !== 'turning') return
      if (event.type === 'up') {
        commitGesture()
        state = { at: 'idle' }
        return
      }
      updateGesture([editOf(mode, host, state.part, dragged(state, state.at === 'moving' ? caughtPivot(host, state, event.at) : event.at))])
    },
    draw(context, host) {
      const part = selectedPart()
      const place = part ? standing(mode, host, part) : null
      if (!place) return
      const colours = currentTheme()
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
    cancel() {
      if (state.at === 'moving' || state.at === 'turning') cancelGesture()
      state = { at: 'idle' }
    },
  }
}

/** Whether a part hangs somewhere below another. */
function isBelow(part: string, ancestor: string): boolean {
  const { parts } = useDocument.getState().puppet!
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

export const homeTool = makePlaceTool('home', 'home', 'Home', Home, [
  ['Drag a part', 'to change where it stands at rest'],
  ['the round handle', 'turns it about its pivot'],
])

export const movePartTool = makePlaceTool('pose', 'move', 'Move part', Move, [
  ['Drag a part', 'to pose it by hand'],
  ['the round handle', 'turns it about its pivot'],
])
