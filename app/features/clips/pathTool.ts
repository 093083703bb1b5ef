/** Path: a spot of the drawing is pointed at, and its way through the clip shows; dots of the way are dragged to where it should go. */
import { Route } from 'lucide-react'
import type { Edit } from '@marionette/core/kernel/command'
import type { Vec } from '@marionette/core/puppet/schema'
import { dragTo, followPose, grabBone, type Grab } from '@marionette/core/posing/drag'
import { placeOfSpot } from '@marionette/core/posing/spots'
import { beginGesture, cancelGesture, commitGesture, updateGesture } from '../../editor/document'
import { editorState } from '../../editor/editor'
import { ownNow } from '../../editor/poseInverse'
import { useSession } from '../../editor/session'
import { toScreen } from '../../stage/camera'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { roundValues } from '../posing/poseTool'
import { clipNow, seek } from './acting'
import { shownPath, type Dot } from './motionPath'
import { pointAt, spotNow } from './pathSpot'
import { keyEdits } from './posed'

type State = { readonly at: 'idle' } | { readonly at: 'pointing' | 'dragging'; readonly grab: Grab | null }

const stateOf = editorState((): { state: State } => ({ state: { at: 'idle' } }))

/** Reach of a dot, screen px. */
const REACH = 9

/** The dot of the path under the pointer: the moment's own, keys, then any other. */
function dotUnder(at: Vec, host: ToolHost): Dot | null {
  const path = shownPath(host.editor, host.camera, host.model)
  const p = toScreen(host.camera, at)
  let best: { dot: Dot; cost: number } | null = null
  for (const dot of path?.dots ?? []) {
    const away = Math.hypot(dot.x - p.x, dot.y - p.y)
    const cost = away - (dot.isKey ? 4 : 0) - (dot.isNow ? 2 : 0)
    if (away <= REACH && (!best || cost < best.cost)) best = { dot, cost }
  }
  return best?.dot ?? null
}

/** Takes hold of the followed spot as it is at the moment; null where no bone moves it. */
function grabSpot(host: ToolHost): Grab | null {
  const { model } = host
  const spot = spotNow(host.editor, model)
  const place = spot && placeOfSpot(model.frame, spot)
  const { selection } = useSession.of(host.editor).getState()
  const bone = selection.kind === 'bone' ? model.rig.bones.index.get(selection.ids[0] ?? '') : undefined
  return place && bone !== undefined ? grabBone(model.frame, model.pose, bone, place, 'drawing') : null
}

/** Keys that bring the spot to a place at the moment. */
function keysFor(host: ToolHost, grab: Grab, at: Vec): Edit[] {
  const clip = clipNow(host.editor)
  if (!clip) return []
  const { frame, pose } = host.model
  return keyEdits(host.editor, clip, ownNow(host.editor, frame, roundValues(dragTo(frame, pose, grab, at))))
}

function press(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  const clip = clipNow(host.editor)
  if (!clip) return
  const dot = dotUnder(event.at, host)
  if (dot) seek(host.editor, dot.frame / clip.rate)
  else if (!pointAt(event, host)) return void host.editor.notify('Nothing is drawn there: press where the drawing is, and its way shows.')
  own.state = { at: 'pointing', grab: grabSpot(host) }
  host.redraw()
}

function drag(state: Exclude<State, { at: 'idle' }>, event: ToolEvent, host: ToolHost): State {
  const { editor } = host
  if (event.type === 'up') {
    if (state.at === 'dragging') commitGesture(editor)
    return { at: 'idle' }
  }
  if (event.type !== 'move' || !event.dragging) return state
  if (!state.grab) {
    editor.notify('No bone moves this spot, so its way cannot be pulled.')
    return { at: 'idle' }
  }
  if (state.at === 'pointing') beginGesture(editor, 'Drag motion path')
  updateGesture(editor, keysFor(host, state.grab, event.at))
  return { at: 'dragging', grab: followPose(state.grab, host.model.pose) }
}

export const pathTool: Tool = {
  id: 'path',
  name: 'Path',
  words: 'motion path trajectory arc spacing',
  icon: Route,
  cursor: 'crosshair',
  hint: [
    ['Click the drawing', 'and the way of that spot shows'],
    ['Drag the spot or a dot', 'to change where it goes; a frame without a key gets one'],
  ],
  hintNow: (editor) => (clipNow(editor) ? null : [['A clip', 'has to be open: its motion is shown']]),
  cursorAt: (at, host) => (dotUnder(at, host) ? 'grab' : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (own.state.at === 'idle') {
      if (event.type === 'down') press(event, host)
      return
    }
    own.state = drag(own.state, event, host)
    host.redraw()
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
  },
}
