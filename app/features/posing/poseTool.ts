/**
 * Pose: drag a bone to turn it, its end or the drawing to reach with the whole limb, a root to move it. Spots that are
 * held stay, and all that leads to them answers. Never touches the rest.
 */
import { setPose } from '@marionette/core/poses/commands'
import type { Vec } from '@marionette/core/puppet/schema'
import { strongestBone as boneOfSample } from '@marionette/core/placement/posedWeights'
import { dragTo, followPose, grabBone, leadingTarget, type Grab, type Handle } from '@marionette/core/posing/drag'
import { posePinAt, PinnedPose } from '@marionette/core/posing/pins'
import { openPuppet, beginGesture, cancelGesture, commitGesture, updateGesture } from '../../editor/document'
import { ownNow } from '../../editor/poseInverse'
import { addPosePin, posePinsNow, removePosePin, removePosePins, usePosePins } from './posePins'
import { selectBones, selectNothing } from '../../editor/session'
import { PoseIcon } from '../../ui/icons'
import { drawPosePins, posePinUnder } from './posePinMarks'
import { boneAt, markHover, partsUnder } from '../../stage/pick'
import { TargetDrag, targetUnder } from '../constraints/targetDrag'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import { currentTheme } from '../../stage/theme'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import type { StageModel } from '../../editor/stageModel'
import { bonePoint } from '@marionette/core/puppet/probe'
import { areBonesShown } from '../../stage/bonesShown'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

/** A bone under the pointer, and what of it was taken hold of. */
export interface Held {
  readonly bone: number
  readonly id: string
  readonly handle: Handle
}

/** What answers to a drag: the limb that was taken hold of, or, between holds, all that leads to them. */
type Answer = { readonly kind: 'limb'; readonly grab: Grab } | { readonly kind: 'held'; readonly held: PinnedPose; readonly bone: string }

type State = { at: 'idle' } | { at: 'pointing'; answer: Answer } | { at: 'dragging'; answer: Answer }

interface Own {
  state: State
  target: TargetDrag
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' }, target: new TargetDrag(false) }))

/** What a press under the pointer will do. */
const useAhead = editorStore<{ readonly ahead: string | null }>(() => ({ ahead: null }))

/** Reach of the head of a pose pin, screen px. */
const PIN_REACH = 9

/** From this share of its length on, the drawing of a limb's last bone is its hand, its paw, its tip. */
const OUTER = 0.6

/** Whether a rod is pressed where the end of a limb is drawn: who grabs a hand wants the hand to move, not to turn. */
const isOuterEnd = ({ rig, frame }: StageModel, bone: number, at: Vec): boolean => {
  if (rig.bones.parent.includes(bone)) return false
  const [start, end] = [bonePoint(frame, bone, 0), bonePoint(frame, bone, 1)]
  const [dx, dy] = [end.x - start.x, end.y - start.y]
  return (at.x - start.x) * dx + (at.y - start.y) * dy > OUTER * (dx * dx + dy * dy)
}

/** The bone under the pointer where bones show, else the one that moves the drawing there most. */
export function boneUnder(event: Pick<ToolEvent, 'at'>, host: ToolHost): Held | null {
  const hit = areBonesShown(host.editor) ? boneAt(host, event.at) : null
  if (hit && (hit.spot !== 'rod' || !isOuterEnd(host.model, hit.bone, event.at))) return { bone: hit.bone, id: hit.id, handle: hit.spot }
  const { rig } = host.model
  for (const id of partsUnder(host, event.at)) {
    const part = sure(rig.parts.index.get(id))
    const whole = rig.parts.bone[part]!
    const bone = whole >= 0 ? whole : strongestBone(host, part, event)
    if (bone !== null) return { bone, id: nth(rig.bones.ids, bone), handle: 'drawing' }
  }
  return null
}

/** The bone that weighs most at the sample of a bending part that is nearest to the pointer. */
function strongestBone(host: ToolHost, part: number, event: Pick<ToolEvent, 'at'>): number | null {
  const { rig, frame } = host.model
  const d = rig.drawings.findIndex((drawing) => drawing.part === part)
  const soft = rig.drawings[d]?.tessellation
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
  const nameOf = (id: string): string => boneOf(openPuppet(host.editor), id).name
  if (answer.kind === 'held') return `Pull ${nameOf(answer.bone)} between holds`
  const { kind, bones } = answer.grab
  return `${VERBS[kind]} ${nameOf(nth(host.model.rig.bones.ids, nth(bones, -1)))}`
}

/** Holds the spot where the drawing is under the pointer, or lets go of the one that is held there. */
function toggleHold(event: ToolEvent, host: ToolHost): void {
  const there = posePinUnder(host.editor, host.model, event.at, host.px(PIN_REACH))
  const held = there ? null : boneUnder(event, host)
  if (there) removePosePin(host.editor, there)
  else if (held) addPosePin(host.editor, posePinAt(host.model.frame, held.bone, event.at))
  host.redraw()
}

function answerTo(held: Held, event: ToolEvent, host: ToolHost): Answer {
  const { frame, pose } = host.model
  const pins = posePinsNow(host.editor)
  // A bone that is turned by its rod is turned alone, whatever is held.
  if (pins.length > 0 && held.handle !== 'rod')
    return { kind: 'held', held: new PinnedPose(frame, pose, held.bone, event.at, pins), bone: held.id }
  return { kind: 'limb', grab: grabBone(frame, pose, held.bone, event.at, held.handle) }
}

/** Says on the hint line, and shows, what a press here will take. */
function lookAhead(event: ToolEvent, host: ToolHost): void {
  const target = targetUnder(host, event.at)
  const held = target === null ? boneUnder(event, host) : null
  markHover(host.editor, 'bone', held?.id)
  say(host.editor, target === null ? held && aheadOf(held, event, host) : targetAhead(host.editor, target))
}

function say(editor: Editor, ahead: string | null): void {
  if (useAhead.of(editor).getState().ahead !== ahead) useAhead.of(editor).setState({ ahead })
}

const targetAhead = (editor: Editor, target: string): string => `to move the target ${recordOf(openPuppet(editor).targets, target).name}`

const AHEAD: Record<Grab['kind'], (name: string) => string> = {
  turn: (name) => `to turn ${name}`,
  reach: (name) => `to reach with ${name}`,
  move: (name) => `to move ${name} and all that hangs from it`,
}

function aheadOf(held: Held, event: ToolEvent, host: ToolHost): string {
  const { frame, pose, rig } = host.model
  const leading = leadingTarget(frame, pose, held.bone, event.at)
  if (leading) return targetAhead(host.editor, leading)
  const { kind, bones } = grabBone(frame, pose, held.bone, event.at, held.handle)
  return AHEAD[kind](boneOf(openPuppet(host.editor), nth(rig.bones.ids, nth(bones, -1))).name)
}

function dragValues(answer: Answer, at: Vec, host: ToolHost): Record<string, number> {
  if (answer.kind === 'held') return answer.held.dragTo(at)
  return dragTo(host.model.frame, host.model.pose, answer.grab, at)
}

export const poseTool: Tool = {
  id: 'pose',
  escapeDeselects: true,
  name: 'Pose',
  words: 'ik inverse kinematics animate',
  icon: PoseIcon,
  cursor: 'default',
  hint: [
    ['Drag the drawing', 'and the limb reaches'],
    ['Shift B', 'shows the bones, to turn one alone'],
    ['Alt-click', 'holds a spot'],
  ],
  watch(editor, listener) {
    const ends = [usePosePins.of(editor).subscribe(listener), useAhead.of(editor).subscribe(listener)]
    return () => ends.forEach((end) => end())
  },
  hintNow(editor) {
    const { ahead } = useAhead.of(editor).getState()
    if (posePinsNow(editor).length === 0) return ahead === null ? null : [['Drag', ahead], ...this.hint.slice(-1)]
    return [
      ['Drag the drawing', 'between the holds'],
      ['Alt-click a hold', 'to let it go'],
      ['X', 'lets all go'],
    ]
  },
  // What lies there was found when the pointer came.
  cursorAt: (_, { editor }) => (useAhead.of(editor).getState().ahead === null ? null : 'grab'),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'hover') return lookAhead(event, host)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (own.state.at === 'idle' && own.target.pointer(event, host)) return
    switch (own.state.at) {
      case 'idle': {
        if (event.type !== 'down') return
        if (event.alt) return toggleHold(event, host)
        const held = boneUnder(event, host)
        if (!held) return selectNothing(host.editor)
        const { frame, pose } = host.model
        const leading = leadingTarget(frame, pose, held.bone, event.at)
        selectBones(host.editor, held.id)
        // A limb that reaches for a target goes with it.
        if (leading) return own.target.take(leading, event.at, host)
        own.state = { at: 'pointing', answer: answerTo(held, event, host) }
        return
      }
      case 'pointing':
        if (event.type === 'up') {
          own.state = { at: 'idle' }
          return
        }
        if (!event.dragging) return
        beginGesture(host.editor, labelOf(own.state.answer, host))
        own.state = { at: 'dragging', answer: own.state.answer }
        return this.pointer(event, host)
      case 'dragging':
        if (event.type === 'move') {
          const { answer } = own.state
          const seen = roundValues(dragValues(answer, event.at, host))
          updateGesture(host.editor, [edit(setPose, { values: ownNow(host.editor, host.model.frame, seen) })])
          if (answer.kind === 'limb') own.state.answer = { kind: 'limb', grab: followPose(answer.grab, host.model.pose) }
        } else if (event.type === 'up') {
          commitGesture(host.editor)
          own.state = { at: 'idle' }
        }
    }
  },
  draw(context, host) {
    drawPosePins(host.editor, context, host.camera, host.model, currentTheme(host.editor).ink, currentTheme(host.editor).halo)
  },
  key(key, host) {
    if (key !== 'x' || posePinsNow(host.editor).length === 0) return false
    removePosePins(host.editor)
    host.redraw()
    return true
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
    own.target.cancel(editor)
    // The pointer may have left.
    markHover(editor, 'bone', undefined)
    say(editor, null)
  },
}

/** A thousandth of a degree or pixel is finer than any pixel and keeps documents short. */
export const roundValues = (values: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([channel, v]) => [channel, Math.round(v * 1000) / 1000]))
