/** Deform: the handles of the selected part's deformer are dragged, pins and points of bends put in and taken out. */
import { Grid3x3 } from 'lucide-react'
import { addressesOf } from '@marionette/core/puppet/channels'
import type { Deformer, Vec } from '@marionette/core/puppet/schema'
import { setDeformer } from '@marionette/core/deformers/commands'
import { resetPose, setPose } from '@marionette/core/poses/commands'
import { seenValues } from '@marionette/core/recording/inverse'
import { dragHandle, handleAt, handlePlaces, type HandlePlace, type NewHandle } from '@marionette/core/posing/handles'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture } from '../../editor/document'
import { ownNow } from '../../editor/poseInverse'
import { deformerOf, useDeform } from './worked'
import { selectNothing, selectParts, useSession } from '../../editor/session'
import { drawDeformer } from './deformMarks'
import { markHover, nextPartUnder, partsUnder } from '../../stage/pick'
import { drawStiffness, dropStiffness, paintsStiffness, paintStiffness, sizeBrush } from './stiffness'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import { channelAddress } from '@marionette/core/kernel/channel'
import { stackedIn } from '@marionette/core/deformers/stack'
import { addressesOfDeformer } from '@marionette/core/deformers/channels'
import type { Frame } from '@marionette/core/puppet/frame'
import { viewOf } from './table'
import type { WithHandle } from './view'
import { editorState, type Editor } from '../../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

type State = { at: 'idle' } | { at: 'pointing'; handle: string } | { at: 'dragging'; handle: string } | { at: 'splint'; from: Vec }

interface Own {
  state: State
  /** Handles where they were last looked at: the pointer asks several times in a frame. */
  seen: { readonly frame: Frame; readonly revision: number; readonly deformer: string; readonly places: HandlePlace[] } | null
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' }, seen: null }))

/** The selected part and the deformer that is worked on. */
function workedOn(editor: Editor): { part: string; deformer: Deformer } | null {
  const { selection } = useSession.of(editor).getState()
  const part = selection.kind === 'part' ? selection.ids[0] : undefined
  const deformer = part === undefined ? null : deformerOf(openPuppet(editor).parts[part], useDeform.of(editor).getState().deformer)
  return part !== undefined && deformer ? { part, deformer } : null
}

/** Values of a deformer's handles as they are seen. */
function seenOf(frame: Frame, deformer: string): Record<string, number> {
  const found = stackedIn(frame.rig.puppet).deformers.get(deformer)
  return found ? seenValues(frame, addressesOfDeformer(found)) : {}
}

function placesOf({ editor, model: { frame, pose } }: ToolHost, deformer: string): HandlePlace[] {
  const own = stateOf(editor)
  if (own.seen?.frame === frame && own.seen.revision === frame.revision && own.seen.deformer === deformer) return own.seen.places
  const places = handlePlaces(frame, pose, seenOf(frame, deformer), deformer)
  own.seen = { frame, revision: frame.revision, deformer, places }
  return places
}

/** Reach of a handle, screen px. */
const REACH = 10

function handleUnder(host: ToolHost, at: Vec): string | null {
  const worked = workedOn(host.editor)
  if (!worked) return null
  const near = placesOf(host, worked.deformer.id)
    .map((p) => ({ id: p.id, far: Math.hypot(p.x - at.x, p.y - at.y) }))
    .sort((a, b) => a.far - b.far)[0]
  return near && near.far <= host.px(REACH) ? near.id : null
}

const rounded = (values: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([channel, v]) => [channel, Math.round(v * 100) / 100]))

function dragTo(host: ToolHost, handle: string, to: Vec): void {
  const worked = workedOn(host.editor)
  if (!worked) return
  const { frame, pose } = host.model
  const values = dragHandle(frame, pose, seenOf(frame, worked.deformer.id), worked.deformer.id, handle, to)
  if (values) updateGesture(host.editor, [edit(setPose, { values: ownNow(host.editor, frame, rounded(values)) })])
}

/** A new handle for the spot under the pointer. */
const newHandle = ({ model }: ToolHost, { id }: Deformer, at: Vec): NewHandle | null => handleAt(model.frame, model.pose, id, at)

/** Puts a deformer with one handle more in its place; what lies under the handle stays where it is posed. */
function putIn(editor: Editor, part: string, { deformer, handle, label }: WithHandle, { values }: NewHandle): void {
  const pose = rounded({ [channelAddress('handle', handle, 'x')]: values.x, [channelAddress('handle', handle, 'y')]: values.y })
  if (perform(editor, [edit(setDeformer, { part, deformer }), edit(setPose, { values: pose })], label))
    useDeform.of(editor).setState({ handle })
}

/** Takes the chosen handle away; points of a cage come back to rest. */
function removeHandle(editor: Editor): boolean {
  const worked = workedOn(editor)
  const { handle } = useDeform.of(editor).getState()
  if (!worked || handle === null) return false
  const without = viewOf(worked.deformer).removeHandle?.(worked.deformer, handle)
  if (without) return perform(editor, [edit(setDeformer, { part: worked.part, deformer: without.deformer })], without.label)
  return perform(editor, [edit(resetPose, { channels: addressesOf('handle', handle) })], 'Handle back to rest')
}

/** Turns or grows the chosen handle by a step. */
function nudge(host: ToolHost, field: 'angle' | 'scale', change: (value: number) => number): boolean {
  const worked = workedOn(host.editor)
  const { handle } = useDeform.of(host.editor).getState()
  if (!worked || handle === null || !viewOf(worked.deformer).turns) return false
  const address = channelAddress('handle', handle, field)
  const { frame } = host.model
  const seen = { [address]: Math.round(change(recordOf(seenValues(frame, [address]), address)) * 1000) / 1000 }
  return perform(
    host.editor,
    [edit(setPose, { values: ownNow(host.editor, frame, seen) })],
    field === 'scale' ? 'Grow handle' : 'Turn handle',
  )
}

function press(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  const handle = handleUnder(host, event.at)
  const worked = workedOn(host.editor)
  if (handle) {
    useDeform.of(host.editor).setState({ handle })
    own.state = { at: 'pointing', handle }
  } else if (worked && viewOf(worked.deformer).hasBars && event.alt && partsUnder(host, event.at).length > 0)
    own.state = { at: 'splint', from: event.at }
  else useDeform.of(host.editor).setState({ handle: null })
}

/** A click beside all handles: a pin or a point where the part is, else another part. */
function click(event: ToolEvent, host: ToolHost): void {
  const worked = workedOn(host.editor)
  const stack = partsUnder(host, event.at)
  const isOn =
    worked !== null && stack.some((id) => id === worked.part || partOf(host.model.rig.puppet, worked.part).content.kind === 'group')
  const view = worked && viewOf(worked.deformer)
  const made = worked && isOn && view?.addHandle ? newHandle(host, worked.deformer, event.at) : null
  if (made && worked && view?.addHandle) return putIn(host.editor, worked.part, view.addHandle(worked.deformer, made, null), made)
  const next = nextPartUnder(stack, useSession.of(host.editor).getState().selection.ids[0])
  if (next) selectParts(host.editor, next)
  else selectNothing(host.editor)
}

export const deformTool: Tool = {
  id: 'deform',
  name: 'Deform',
  words: 'warp mesh cage bend pins',
  icon: Grid3x3,
  cursor: 'default',
  hint: [
    ['Drag a handle', 'of the cage, bend or pins'],
    ['click', 'for a new pin or point'],
    ['Alt-drag', 'for a stiff bar'],
  ],
  cursorAt: (at, host) => (handleUnder(host, at) ? 'grab' : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    const worked = workedOn(host.editor)
    if (worked && paintsStiffness(host.editor, worked.deformer)) return paintStiffness(event, host, worked)
    if (event.type === 'hover')
      return markHover(host.editor, 'part', handleUnder(host, event.at) ? undefined : partsUnder(host, event.at)[0])
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (event.type === 'down') return press(event, host)
    if (own.state.at === 'pointing' && event.dragging) {
      beginGesture(host.editor, `Move a handle of ${workedOn(host.editor)?.deformer.name ?? 'the deformer'}`)
      own.state = { at: 'dragging', handle: own.state.handle }
    }
    if (own.state.at === 'dragging' && event.type === 'move') dragTo(host, own.state.handle, event.at)
    if (event.type !== 'up') return
    if (own.state.at === 'dragging') commitGesture(host.editor)
    else if (own.state.at === 'splint') {
      const worked = workedOn(host.editor)
      const add = worked && viewOf(worked.deformer).addHandle
      if (worked && add && event.dragging) {
        const [from, to] = [newHandle(host, worked.deformer, own.state.from), newHandle(host, worked.deformer, event.at)]
        if (from && to) putIn(host.editor, worked.part, add(worked.deformer, from, to), from)
      }
    } else if (own.state.at === 'idle' && !event.dragging) click(event, host)
    own.state = { at: 'idle' }
  },
  key(key, host, shift) {
    if (key === 'Delete' || key === 'Backspace') return removeHandle(host.editor)
    const worked = workedOn(host.editor)
    if (worked && paintsStiffness(host.editor, worked.deformer)) return sizeBrush(key, host)
    if (key === '[' || key === ']') return nudge(host, 'angle', (v) => v + (key === '[' ? 1 : -1) * (shift ? 1 : 5))
    if (key === ',' || key === '.') return nudge(host, 'scale', (v) => v * (key === '.' ? 1.1 : 1 / 1.1))
    return false
  },
  draw(pen, host) {
    const worked = workedOn(host.editor)
    if (worked && paintsStiffness(host.editor, worked.deformer)) drawStiffness(pen, host, worked.deformer)
    if (worked)
      drawDeformer(
        host.editor,
        pen,
        host.camera,
        worked.deformer,
        placesOf(host, worked.deformer.id),
        useDeform.of(host.editor).getState().handle,
      )
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
    dropStiffness(editor)
  },
}
