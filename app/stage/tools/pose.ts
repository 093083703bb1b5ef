/** Pose: drag a bone to turn it, drag the end of a limb to reach with both its bones. Never touches the rest. */
import { setPose } from '@marionette/core/edit/pose'
import { edit } from '@marionette/core/edit/command'
import { boneSlot } from '@marionette/core/rig/compile'
import { dragTo, grabBone, type Grab } from '@marionette/core/rig/drag'
import { openPuppet, beginGesture, cancelGesture, commitGesture, updateGesture } from '../../state/document'
import { selectBones, selectNothing } from '../../state/session'
import { PoseIcon } from '../../ui/icons'
import { boneAt, markHover, partsUnder, type BoneHit } from './pick'
import type { Tool, ToolEvent, ToolHost } from './tool'

type State = { at: 'idle' } | { at: 'pointing'; hit: BoneHit; grab: Grab } | { at: 'dragging'; grab: Grab }

let state: State = { at: 'idle' }

/** The bone under the pointer, or the one that moves the drawing there. */
export function boneUnder(event: ToolEvent, host: ToolHost): BoneHit | null {
  const hit = boneAt(host, event.at)
  if (hit) return hit
  const { rig } = host.model
  for (const id of partsUnder(host, event.at)) {
    const part = rig.parts.index.get(id)!
    const whole = rig.parts.bone[part]!
    const bone = whole >= 0 ? whole : strongestBone(host, part, event)
    if (bone === null) continue
    const isLast = !rig.bones.parent.includes(bone)
    return { bone, id: rig.bones.ids[bone]!, spot: isLast ? 'bead' : 'rod' }
  }
  return null
}

/** The bone that weighs most at the point of a bending part that is nearest to the pointer. */
function strongestBone(host: ToolHost, part: number, event: ToolEvent): number | null {
  const { rig, frame } = host.model
  const d = rig.drawings.findIndex((drawing) => drawing.part === part)
  const skin = rig.drawings[d]?.skin
  const points = frame.points[d]
  if (!skin || !points) return null
  let best = Infinity
  let at = 0
  for (let i = 0; i < points.length / 2; i++) {
    const distance = (points[2 * i]! - event.at.x) ** 2 + (points[2 * i + 1]! - event.at.y) ** 2
    if (distance < best) {
      best = distance
      at = i
    }
  }
  return skin.bones[skin.offsets[4 * at]! / 6]!
}

function labelOf(grab: Grab, host: ToolHost): string {
  const name = openPuppet().bones[host.model.rig.bones.ids[grab.lower]!]!.name
  return grab.kind === 'turn' ? `Turn ${name}` : `Reach with ${name}`
}

export const poseTool: Tool = {
  id: 'pose',
  name: 'Pose',
  icon: PoseIcon,
  cursor: 'default',
  hint: [
    ['Drag a bone', 'or the drawing to turn it'],
    ['the bead at a limb’s end', 'to reach with both bones'],
  ],
  cursorAt: (at, host) => (boneAt(host, at) ? 'grab' : null),
  pointer(event, host) {
    if (event.type === 'hover') return markHover('bone', boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel()
    switch (state.at) {
      case 'idle': {
        if (event.type !== 'down') return
        const hit = boneUnder(event, host)
        if (!hit) return selectNothing()
        const { frame, pose } = host.model
        state = { at: 'pointing', hit, grab: grabBone(frame, pose, hit.bone, event.at, hit.spot === 'bead') }
        selectBones(hit.id)
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
          const values = dragTo(host.model.frame, state.grab, event.at)
          updateGesture([edit(setPose, { values: roundAngles(values) })])
          // The bend side is chosen against the angles just shown, so that it never flips under way.
          const { pose } = host.model
          state.grab = { ...state.grab, angles: [pose[boneSlot(state.grab.upper)]!, pose[boneSlot(state.grab.lower)]!] }
        } else if (event.type === 'up') {
          commitGesture()
          state = { at: 'idle' }
        }
    }
  },
  cancel() {
    if (state.at === 'dragging') cancelGesture()
    state = { at: 'idle' }
  },
}

/** A thousandth of a degree is finer than any pixel and keeps documents short. */
const roundAngles = (values: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([channel, v]) => [channel, Math.round(v * 1000) / 1000]))
