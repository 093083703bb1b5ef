/** Pose: drag a bone to turn it, its end or the drawing to reach with the whole limb, a root to move it. Never touches the rest. */
import { setPose } from '@marionette/core/edit/pose'
import { edit } from '@marionette/core/edit/command'
import { strongestBone as boneOfSample } from '@marionette/core/rig/weights'
import { dragTo, followPose, grabBone, leadingTarget, type Grab, type Handle } from '@marionette/core/rig/drag'
import { openPuppet, beginGesture, cancelGesture, commitGesture, updateGesture } from '../../state/document'
import { selectBones, selectNothing } from '../../state/session'
import { PoseIcon } from '../../ui/icons'
import { boneAt, markHover, partsUnder } from './pick'
import { TargetDrag, targetUnder } from './targetDrag'
import type { Tool, ToolEvent, ToolHost } from './tool'

/** A bone under the pointer, and what of it was taken hold of. */
export interface Held {
  readonly bone: number
  readonly id: string
  readonly handle: Handle
}

type State = { at: 'idle' } | { at: 'pointing'; grab: Grab } | { at: 'dragging'; grab: Grab }

let state: State = { at: 'idle' }
const target = new TargetDrag(false)

/** The bone under the pointer, or the one that moves the drawing there most. */
export function boneUnder(event: ToolEvent, host: ToolHost): Held | null {
  const hit = boneAt(host, event.at)
  if (hit) return { bone: hit.bone, id: hit.id, handle: hit.spot }
  const { rig } = host.model
  for (const id of partsUnder(host, event.at)) {
    const part = rig.parts.index.get(id)!
    const whole = rig.parts.bone[part]!
    const bone = whole >= 0 ? whole : strongestBone(host, part, event)
    if (bone !== null) return { bone, id: rig.bones.ids[bone]!, handle: 'drawing' }
  }
  return null
}

/** The bone that weighs most at the sample of a bending part that is nearest to the pointer. */
function strongestBone(host: ToolHost, part: number, event: ToolEvent): number | null {
  const { rig, frame } = host.model
  const d = rig.drawings.findIndex((drawing) => drawing.part === part)
  const soft = rig.drawings[d]?.soft
  const points = frame.samples[d]
  if (!soft || !points) return null
  let best = Infinity
  let at = 0
  for (let i = 0; i < points.length / 2; i++) {
    const distance = (points[2 * i]! - event.at.x) ** 2 + (points[2 * i + 1]! - event.at.y) ** 2
    if (distance < best) {
      best = distance
      at = i
    }
  }
  const bone = boneOfSample(soft, at)
  return bone < 0 ? null : bone
}

const VERBS: Record<Grab['kind'], string> = { turn: 'Turn', reach: 'Reach with', move: 'Move' }

function labelOf(grab: Grab, host: ToolHost): string {
  const name = openPuppet().bones[host.model.rig.bones.ids[grab.bones.at(-1)!]!]!.name
  return `${VERBS[grab.kind]} ${name}`
}

export const poseTool: Tool = {
  id: 'pose',
  name: 'Pose',
  icon: PoseIcon,
  cursor: 'default',
  hint: [
    ['Drag the drawing', 'and the limb reaches'],
    ['a bone', 'to turn it alone'],
    ['the root’s ring', 'to move everything'],
  ],
  cursorAt: (at, host) => (targetUnder(host, at) || boneAt(host, at) ? 'grab' : null),
  pointer(event, host) {
    if (event.type === 'hover') return markHover('bone', boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel()
    if (state.at === 'idle' && target.pointer(event, host)) return
    switch (state.at) {
      case 'idle': {
        if (event.type !== 'down') return
        const held = boneUnder(event, host)
        if (!held) return selectNothing()
        const { frame, pose } = host.model
        const leading = leadingTarget(frame, pose, held.bone, event.at)
        selectBones(held.id)
        // A limb that reaches for a target goes with it.
        if (leading) return target.take(leading, event.at, host)
        state = { at: 'pointing', grab: grabBone(frame, pose, held.bone, event.at, held.handle) }
        return
      }
      case 'pointing':
        if (event.type === 'up') {
          state = { at: 'idle' }
          return
        }
        if (!event.dragging) return
        beginGesture(labelOf(state.grab, host))
        state = { at: 'dragging', grab: state.grab }
        return this.pointer(event, host)
      case 'dragging':
        if (event.type === 'move') {
          const { frame, pose } = host.model
          const values = dragTo(frame, pose, state.grab, event.at)
          updateGesture([edit(setPose, { values: roundValues(values) })])
          state.grab = followPose(state.grab, host.model.pose)
        } else if (event.type === 'up') {
          commitGesture()
          state = { at: 'idle' }
        }
    }
  },
  cancel() {
    if (state.at === 'dragging') cancelGesture()
    state = { at: 'idle' }
    target.cancel()
  },
}

/** A thousandth of a degree or pixel is finer than any pixel and keeps documents short. */
const roundValues = (values: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([channel, v]) => [channel, Math.round(v * 1000) / 1000]))
