/** Deform: the handles of the selected part's deformer are dragged, pins and points of bends put in and taken out. */
import { Grid3x3 } from 'lucide-react'
import { addressesOf, addressesOfDeformer, channelAddress, stackedIn } from '@marionette/core/document/channels'
import { freshId } from '@marionette/core/document/ids'
import type { Deformer, DeformerOf, Pin, Vec } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { setDeformer } from '@marionette/core/edit/deformers'
import { resetPose, setPose } from '@marionette/core/edit/pose'
import { seenValues } from '@marionette/core/record/own'
import { distanceToPolyline } from '@marionette/core/geometry/polyline'
import type { Frame } from '@marionette/core/rig/evaluate'
import { dragHandle, handleAt, handlePlaces, type HandlePlace, type NewHandle } from '@marionette/core/rig/handles'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture } from '../../state/document'
import { ownNow } from '../../state/own'
import { deformerOf, useDeform } from '../../state/deform'
import { selectNothing, selectParts, useSession } from '../../state/session'
import { drawDeformer } from '../deformMarks'
import { markHover, nextPartUnder, partsUnder } from './pick'
import { drawStiffness, dropStiffness, paintsStiffness, paintStiffness, sizeBrush } from './stiffness'
import type { Tool, ToolEvent, ToolHost } from './tool'

type State = { at: 'idle' } | { at: 'pointing'; handle: string } | { at: 'dragging'; handle: string } | { at: 'splint'; from: Vec }

let state: State = { at: 'idle' }

/** The selected part and the deformer that is worked on. */
function workedOn(): { part: string; deformer: Deformer } | null {
  const { selection } = useSession.getState()
  const part = selection.kind === 'part' ? selection.ids[0] : undefined
  const deformer = part === undefined ? null : deformerOf(openPuppet().parts[part], useDeform.getState().deformer)
  return part !== undefined && deformer ? { part, deformer } : null
}

/** Handles where they were last looked at: the pointer asks several times in a frame. */
let seen: { readonly frame: Frame; readonly revision: number; readonly deformer: string; readonly places: HandlePlace[] } | null = null

/** Values of a deformer's handles as they are seen. */
function seenOf(frame: Frame, deformer: string): Record<string, number> {
  const found = stackedIn(frame.rig.puppet).deformers.get(deformer)
  return found ? seenValues(frame, addressesOfDeformer(found)) : {}
}

function placesOf({ model: { frame, pose } }: ToolHost, deformer: string): HandlePlace[] {
  if (seen?.frame === frame && seen.revision === frame.revision && seen.deformer === deformer) return seen.places
  const places = handlePlaces(frame, pose, seenOf(frame, deformer), deformer)
  seen = { frame, revision: frame.revision, deformer, places }
  return places
}

/** Reach of a handle, screen px. */
const REACH = 10

function handleUnder(host: ToolHost, at: Vec): string | null {
  const worked = workedOn()
  if (!worked) return null
  const near = placesOf(host, worked.deformer.id)
    .map((p) => ({ id: p.id, far: Math.hypot(p.x - at.x, p.y - at.y) }))
    .sort((a, b) => a.far - b.far)[0]
  return near && near.far <= host.px(REACH) ? near.id : null
}

const rounded = (values: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([channel, v]) => [channel, Math.round(v * 100) / 100]))

function dragTo(host: ToolHost, handle: string, to: Vec): void {
  const worked = workedOn()
  if (!worked) return
  const { frame, pose } = host.model
  const values = dragHandle(frame, pose, seenOf(frame, worked.deformer.id), worked.deformer.id, handle, to)
  if (values) updateGesture([edit(setPose, { values: ownNow(frame, rounded(values)) })])
}

const tenth = ({ x, y }: Vec): Vec => ({ x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 })

/** A new handle for the spot under the pointer. */
const newHandle = ({ model }: ToolHost, { id }: Deformer, at: Vec): NewHandle | null => handleAt(model.frame, model.pose, id, at)

/** Puts a deformer with one handle more in its place; what lies under the handle stays where it is posed. */
function putIn(part: string, deformer: Deformer, handle: string, { values }: NewHandle, label: string): void {
  const pose = rounded({ [channelAddress('handle', handle, 'x')]: values.x, [channelAddress('handle', handle, 'y')]: values.y })
  if (perform([edit(setDeformer, { part, deformer }), edit(setPose, { values: pose })], label)) useDeform.setState({ handle })
}

/** Puts a pin, or a splint between two spots, into the mesh. */
function addPin(part: string, deformer: DeformerOf<'pins'>, made: NewHandle, end: NewHandle | null): void {
  const id = `${deformer.id}.${freshId('pin').slice(4, 12)}`
  const common = { id, at: tenth(made.at), turns: true, radius: 0, depth: 0 }
  const pin: Pin = end ? { ...common, kind: 'splint', end: tenth(end.at), held: false } : { ...common, kind: 'pin', end: null, held: true }
  putIn(part, { ...deformer, pins: [...deformer.pins, pin] }, id, made, end ? 'Put in a splint' : 'Put in a pin')
}

/** Puts a point into a bend where it is nearest to a spot. */
function addBendPoint(part: string, deformer: DeformerOf<'bend'>, made: NewHandle): void {
  const { points } = deformer
  const at = tenth(made.at)
  const far = (i: number): number => {
    const [a, b] = [points[i]!.at, points[i + 1]!.at]
    return distanceToPolyline([a.x, a.y, b.x, b.y], false, at.x, at.y)
  }
  const best = points.slice(1).reduce((found, _, i) => (far(i) < far(found) ? i : found), 0)
  const id = `${deformer.id}.${freshId('point').slice(6, 14)}`
  putIn(part, { ...deformer, points: points.toSpliced(best + 1, 0, { id, at }) }, id, made, 'Put in a point of the bend')
}

/** Takes the chosen handle away; points of a cage come back to rest. */
function removeHandle(): boolean {
  const worked = workedOn()
  const { handle } = useDeform.getState()
  if (!worked || handle === null) return false
  const { part, deformer } = worked
  if (deformer.kind === 'pins')
    return perform(
      [edit(setDeformer, { part, deformer: { ...deformer, pins: deformer.pins.filter((p) => p.id !== handle) } })],
      'Take a pin out',
    )
  if (deformer.kind === 'bend' && deformer.points.length > 2)
    return perform(
      [edit(setDeformer, { part, deformer: { ...deformer, points: deformer.points.filter((p) => p.id !== handle) } })],
      'Take a point out of the bend',
    )
  return perform([edit(resetPose, { channels: addressesOf('handle', handle) })], 'Handle back to rest')
}

/** Turns or grows the chosen handle by a step. */
function nudge(host: ToolHost, field: 'angle' | 'scale', change: (value: number) => number): boolean {
  const worked = workedOn()
  const { handle } = useDeform.getState()
  if (!worked || handle === null || worked.deformer.kind === 'cage') return false
  const address = channelAddress('handle', handle, field)
  const { frame } = host.model
  const seen = { [address]: Math.round(change(seenValues(frame, [address])[address]!) * 1000) / 1000 }
  return perform([edit(setPose, { values: ownNow(frame, seen) })], field === 'scale' ? 'Grow handle' : 'Turn handle')
}

function press(event: ToolEvent, host: ToolHost): void {
  const handle = handleUnder(host, event.at)
  const worked = workedOn()
  if (handle) {
    useDeform.setState({ handle })
    state = { at: 'pointing', handle }
  } else if (worked?.deformer.kind === 'pins' && event.alt && partsUnder(host, event.at).length > 0)
    state = { at: 'splint', from: event.at }
  else useDeform.setState({ handle: null })
}

/** A click beside all handles: a pin or a point where the part is, else another part. */
function click(event: ToolEvent, host: ToolHost): void {
  const worked = workedOn()
  const stack = partsUnder(host, event.at)
  const isOn =
    worked !== null && stack.some((id) => id === worked.part || host.model.rig.puppet.parts[worked.part]!.content.kind === 'group')
  const made = worked && isOn && worked.deformer.kind !== 'cage' ? newHandle(host, worked.deformer, event.at) : null
  if (made && worked?.deformer.kind === 'pins') return addPin(worked.part, worked.deformer, made, null)
  if (made && worked?.deformer.kind === 'bend') return addBendPoint(worked.part, worked.deformer, made)
  const next = nextPartUnder(stack, useSession.getState().selection.ids[0])
  if (next) selectParts(next)
  else selectNothing()
}

export const deformTool: Tool = {
  id: 'deform',
  name: 'Deform',
  icon: Grid3x3,
  cursor: 'default',
  hint: [
    ['Drag a handle', 'of the cage, bend or pins'],
    ['click', 'for a new pin or point'],
    ['Alt-drag', 'for a splint'],
  ],
  cursorAt: (at, host) => (handleUnder(host, at) ? 'grab' : null),
  pointer(event, host) {
    const worked = workedOn()
    if (worked && paintsStiffness(worked.deformer)) return paintStiffness(event, host, worked)
    if (event.type === 'hover') return markHover('part', handleUnder(host, event.at) ? undefined : partsUnder(host, event.at)[0])
    if (event.type === 'cancel') return this.cancel()
    if (event.type === 'down') return press(event, host)
    if (state.at === 'pointing' && event.dragging) {
      beginGesture(`Move a handle of ${workedOn()?.deformer.name ?? 'the deformer'}`)
      state = { at: 'dragging', handle: state.handle }
    }
    if (state.at === 'dragging' && event.type === 'move') dragTo(host, state.handle, event.at)
    if (event.type !== 'up') return
    if (state.at === 'dragging') commitGesture()
    else if (state.at === 'splint') {
      const worked = workedOn()
      if (worked?.deformer.kind === 'pins' && event.dragging) {
        const [from, to] = [newHandle(host, worked.deformer, state.from), newHandle(host, worked.deformer, event.at)]
        if (from && to) addPin(worked.part, worked.deformer, from, to)
      }
    } else if (state.at === 'idle' && !event.dragging) click(event, host)
    state = { at: 'idle' }
  },
  key(key, host, shift) {
    if (key === 'Delete' || key === 'Backspace') return removeHandle()
    const worked = workedOn()
    if (worked && paintsStiffness(worked.deformer)) return sizeBrush(key, host)
    if (key === '[' || key === ']') return nudge(host, 'angle', (v) => v + (key === '[' ? 1 : -1) * (shift ? 1 : 5))
    if (key === ',' || key === '.') return nudge(host, 'scale', (v) => v * (key === '.' ? 1.1 : 1 / 1.1))
    return false
  },
  draw(pen, host) {
    const worked = workedOn()
    if (worked && paintsStiffness(worked.deformer)) drawStiffness(pen, host, worked.deformer)
    if (worked) drawDeformer(pen, host.camera, worked.deformer, placesOf(host, worked.deformer.id), useDeform.getState().handle)
  },
  cancel() {
    if (state.at === 'dragging') cancelGesture()
    state = { at: 'idle' }
    dropStiffness()
  },
}
