/**
 * Pose: drag a bone to turn it, its end or the drawing to reach with the whole limb, a root to move it. Spots that are
 * nailed stay, and all that leads to them answers. Never touches the rest.
 */
import { setPose } from '@marionette/core/edit/pose'
import { edit } from '@marionette/core/edit/command'
import type { Vec } from '@marionette/core/document/schema'
import { strongestBone as boneOfSample } from '@marionette/core/rig/weights'
import { dragTo, followPose, grabBone, leadingTarget, type Grab, type Handle } from '@marionette/core/rig/drag'
import { nailAt, NailedPose } from '@marionette/core/rig/nails'
import { openPuppet, beginGesture, cancelGesture, commitGesture, updateGesture } from '../../state/document'
import { ownNow } from '../../state/own'
import { addNail, nailsNow, removeNail, removeNails } from '../../state/nails'
import { selectBones, selectNothing } from '../../state/session'
import { PoseIcon } from '../../ui/icons'
import { drawNails, nailUnder } from '../nailMarks'
import { currentTheme } from '../overlay'
import { boneAt, markHover, partsUnder } from './pick'
import { TargetDrag, targetUnder } from './targetDrag'
import type { Tool, ToolEvent, ToolHost } from './tool'

/** A bone under the pointer, and what of it was taken hold of. */
export interface Held {
  readonly bone: number
  readonly id: string
  readonly handle: Handle
}

/** What answers to a drag: the limb that was taken hold of, or, between nails, all that leads to them. */
type Answer = { readonly kind: 'limb'; readonly grab: Grab } | { readonly kind: 'nailed'; readonly held: NailedPose; readonly bone: string }

type State = { at: 'idle' } | { at: 'pointing'; answer: Answer } | { at: 'dragging'; answer: Answer }

let state: State = { at: 'idle' }
const target = new TargetDrag(false)

/** Reach of a nail's head, screen px. */
const NAIL_REACH = 9

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

function labelOf(answer: Answer, host: ToolHost): string {
  const nameOf = (id: string): string => openPuppet().bones[id]!.name
  if (answer.kind === 'nailed') return `Pull ${nameOf(answer.bone)} between nails`
  const { kind, bones } = answer.grab
  return `${VERBS[kind]} ${nameOf(host.model.rig.bones.ids[bones.at(-1)!]!)}`
}

/** Puts a nail in where the drawing is under the pointer, or takes out the one that is there. */
function toggleNail(event: ToolEvent, host: ToolHost): void {
  const there = nailUnder(host.model, event.at, host.px(NAIL_REACH))
  const held = there ? null : boneUnder(event, host)
  if (there) removeNail(there)
  else if (held) addNail(nailAt(host.model.frame, held.bone, event.at))
  host.redraw()
}

function answerTo(held: Held, event: ToolEvent, host: ToolHost): Answer {
  const { frame, pose } = host.model
  const nails = nailsNow()
  // A bone that is turned by its rod is turned alone, whatever is nailed.
  if (nails.length > 0 && held.handle !== 'rod')
    return { kind: 'nailed', held: new NailedPose(frame, pose, held.bone, event.at, nails), bone: held.id }
  return { kind: 'limb', grab: grabBone(frame, pose, held.bone, event.at, held.handle) }
}

function dragValues(answer: Answer, at: Vec, host: ToolHost): Record<string, number> {
  if (answer.kind === 'nailed') return answer.held.dragTo(at)
  return dragTo(host.model.frame, host.model.pose, answer.grab, at)
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
    ['Alt-click', 'nails a spot down'],
  ],
  hintNow: () =>
    nailsNow().length === 0
      ? null
      : [
          ['Drag the drawing', 'between the nails'],
          ['Alt-click a nail', 'to take it out'],
          ['X', 'takes all out'],
        ],
  cursorAt: (at, host) => (targetUnder(host, at) || boneAt(host, at) ? 'grab' : null),
  pointer(event, host) {
    if (event.type === 'hover') return markHover('bone', boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel()
    if (state.at === 'idle' && target.pointer(event, host)) return
    switch (state.at) {
      case 'idle': {
        if (event.type !== 'down') return
        if (event.alt) return toggleNail(event, host)
        const held = boneUnder(event, host)
        if (!held) return selectNothing()
        const { frame, pose } = host.model
        const leading = leadingTarget(frame, pose, held.bone, event.at)
        selectBones(held.id)
        // A limb that reaches for a target goes with it.
        if (leading) return target.take(leading, event.at, host)
        state = { at: 'pointing', answer: answerTo(held, event, host) }
        return
      }
      case 'pointing':
        if (event.type === 'up') {
          state = { at: 'idle' }
          return
        }
        if (!event.dragging) return
        beginGesture(labelOf(state.answer, host))
        state = { at: 'dragging', answer: state.answer }
        return this.pointer(event, host)
      case 'dragging':
        if (event.type === 'move') {
          const { answer } = state
          const seen = roundValues(dragValues(answer, event.at, host))
          updateGesture([edit(setPose, { values: ownNow(host.model.frame, seen) })])
          if (answer.kind === 'limb') state.answer = { kind: 'limb', grab: followPose(answer.grab, host.model.pose) }
        } else if (event.type === 'up') {
          commitGesture()
          state = { at: 'idle' }
        }
    }
  },
  draw(context, host) {
    drawNails(context, host.camera, host.model, currentTheme().ink, currentTheme().halo)
  },
  key(key, host) {
    if (key !== 'x' || nailsNow().length === 0) return false
    removeNails()
    host.redraw()
    return true
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
