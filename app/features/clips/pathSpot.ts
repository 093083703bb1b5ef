/**
 * The spot whose motion path is shown: one of the drawing that was pointed at, or the end of the selected bone. Where it is at each frame
 * is worked out a few frames at a time, so that the stage goes on meanwhile, and anew when the clip or the puppet changed.
 */
import { writeClip } from '@marionette/core/clips/layers'
import type { Clip } from '@marionette/core/clips/records'
import type { Vec } from '@marionette/core/kernel/numbers'
import { nth } from '@marionette/core/kernel/sure'
import { evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import { drawingOfPart, type Rig } from '@marionette/core/puppet/rig'
import { clipForRig } from '@marionette/core/playing/clips'
import { clipSimulation } from '@marionette/core/playing/motionRun'
import { placeOfSpot, spotOn, tipOf, type Spot } from '@marionette/core/posing/spots'
import { editorState, type Editor } from '../../editor/editor'
import { selectBones, selectParts, useSession, type Selection } from '../../editor/session'
import type { StageModel } from '../../editor/stageModel'
import { partsUnder } from '../../stage/pick'
import type { ToolEvent, ToolHost } from '../../stage/tool'
import { boneUnder } from '../posing/poseTool'

/** Frames on either side of the moment that are shown. */
const REACH = 48
/** Milliseconds of work between two pictures. */
const BUDGET = 5

/** The path of a spot as far as it is known. */
interface Path {
  readonly rig: Rig
  readonly layers: Clip['layers']
  readonly spot: Spot
  readonly frame: Frame
  /** Place at each frame of the clip; undefined where it is not known yet, null where it is nowhere. */
  readonly places: (Vec | null | undefined)[]
  /** Where it was before the last change: shown until the new places are known. */
  readonly before: readonly (Vec | null | undefined)[]
}

interface Own {
  /** The spot that was pointed at, with what was selected by that: another selection ends it. */
  pointed: { readonly spot: Spot; readonly owner: Pick<Selection, 'kind'> & { readonly id: string } } | null
  path: Path | null
  request: number
  redraw: () => void
}

const stateOf = editorState((): Own => ({ pointed: null, path: null, request: 0, redraw: () => undefined }))

/** Calls back when places of the path became known. */
export const onPath = (editor: Editor, redraw: () => void): void => void (stateOf(editor).redraw = redraw)

/** The spot that is followed; null where none is. */
export function spotNow(editor: Editor, { rig, frame }: StageModel): Spot | null {
  const { pointed } = stateOf(editor)
  const { selection } = useSession.of(editor).getState()
  if (pointed?.owner.kind === selection.kind && pointed.owner.id === selection.ids[0] && placeOfSpot(frame, pointed.spot))
    return pointed.spot
  const bone = selection.kind === 'bone' ? rig.bones.index.get(selection.ids[0] ?? '') : undefined
  return bone === undefined ? null : tipOf(rig, bone)
}

/** Follows the spot of the drawing under the pointer from now on; tells whether there was any. */
export function pointAt(event: Pick<ToolEvent, 'at'>, host: ToolHost): boolean {
  const { rig, frame } = host.model
  const [part] = partsUnder(host, event.at)
  if (part === undefined) return false
  const spot = spotOn(frame, drawingOfPart(rig, part), event.at)
  if (!spot) return false
  const bone = boneUnder(event, host)?.id
  if (bone === undefined) selectParts(host.editor, part)
  else selectBones(host.editor, bone)
  stateOf(host.editor).pointed = { spot, owner: bone === undefined ? { kind: 'part', id: part } : { kind: 'bone', id: bone } }
  return true
}

/** Frames that are shown about a moment. */
export function shownFrames(clip: Clip, time: number): { from: number; to: number } {
  const at = Math.round(time * clip.rate)
  return { from: Math.max(0, at - REACH), to: Math.min(Math.round(clip.length * clip.rate), at + REACH) }
}

/** Where a spot is at times of a clip. */
export function placesAt(rig: Rig, clip: Clip, spot: Spot, frame: Frame, times: readonly number[]): (Vec | null)[] {
  const ready = clipForRig(rig, clip)
  const pose = new Float64Array(rig.restPose.length)
  return times.map((time) => {
    pose.set(rig.restPose)
    writeClip(ready, time, pose)
    return placeOfSpot(evaluate(rig, pose, frame, { time, simulation: clipSimulation(rig, clip, time) }), spot)
  })
}

/** Works out frames that are missing, the nearest to a moment first, as long as there is time. */
function workOut(path: Path, clip: Clip, at: number, from: number, to: number): void {
  const until = performance.now() + BUDGET
  const isMissing = (k: number): boolean => k >= from && k <= to && path.places[k] === undefined
  for (let off = 0; off <= to - from; off++)
    for (const k of off === 0 ? [at] : [at - off, at + off]) {
      if (!isMissing(k)) continue
      if (performance.now() > until) return
      path.places[k] = nth(placesAt(path.rig, clip, path.spot, path.frame, [k / clip.rate]), 0)
    }
}

const isSameSpot = (a: Spot, b: Spot): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)

/** Places of the followed spot at each frame of a clip, as far as they are known; what is missing is worked out after the picture. */
export function pathOf(editor: Editor, rig: Rig, clip: Clip, spot: Spot, time: number): (Vec | null | undefined)[] {
  const own = stateOf(editor)
  const last = own.path
  const isSame = last !== null && last.rig === rig && isSameSpot(last.spot, spot)
  if (!isSame || last.layers !== clip.layers) {
    const known = isSame ? Math.max(last.places.length, last.before.length) : 0
    const before = Array.from({ length: known }, (_, k) => last?.places[k] ?? last?.before[k])
    own.path = { rig, layers: clip.layers, spot, frame: isSame ? last.frame : makeFrame(rig), places: [], before }
  }
  const path = own.path
  if (!path) return []
  const { from, to } = shownFrames(clip, time)
  let known = from
  while (known <= to && path.places[known] !== undefined) known++
  if (known <= to && own.request === 0)
    own.request = requestAnimationFrame(() => {
      own.request = 0
      workOut(path, clip, Math.round(time * clip.rate), from, to)
      own.redraw()
    })
  const out: (Vec | null | undefined)[] = []
  for (let k = from; k <= to; k++) out[k] = path.places[k] === undefined ? path.before[k] : path.places[k]
  return out
}
