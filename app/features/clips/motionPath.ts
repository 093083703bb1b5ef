/**
 * The motion path: where the end of the selected bone is at each frame of the open clip. It is worked out a few frames at a time, so that
 * the stage goes on meanwhile, and anew when the clip or the puppet changed.
 */
import { writeClip } from '@marionette/core/clips/layers'
import { isSameTime } from '@marionette/core/clips/lookup'
import type { Clip } from '@marionette/core/clips/records'
import type { Vec } from '@marionette/core/kernel/numbers'
import { addressesOf } from '@marionette/core/puppet/channels'
import { evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import { bonePoint } from '@marionette/core/puppet/probe'
import type { Rig } from '@marionette/core/puppet/rig'
import { clipForRig } from '@marionette/core/playing/clips'
import { nth } from '@marionette/core/kernel/sure'
import { editorState, type Editor } from '../../editor/editor'
import { useDocument } from '../../editor/document'
import { useSession } from '../../editor/session'
import { toScreen } from '../../stage/camera'
import type { Mark } from '../../stage/marks'
import { clipNow, useActing } from './acting'

/** Frames on either side of the moment that are shown. */
const REACH = 48
/** Least distance of dots, px. */
const CLEAR = 5
/** Milliseconds of work between two pictures. */
const BUDGET = 5

interface Path {
  readonly rig: Rig
  readonly clip: Clip
  readonly bone: number
  readonly frame: Frame
  /** Place at each frame of the clip; undefined where it is not known yet. */
  readonly places: (Vec | undefined)[]
}

interface Own {
  path: Path | null
  request: number
  redraw: () => void
}

const stateOf = editorState((): Own => ({ path: null, request: 0, redraw: () => undefined }))

/** Frames that are shown about a moment. */
const shownFrames = (clip: Clip, time: number): { from: number; to: number } => {
  const at = Math.round(time * clip.rate)
  return { from: Math.max(0, at - REACH), to: Math.min(Math.round(clip.length * clip.rate), at + REACH) }
}

/** Works out frames that are missing, as long as there is time. */
function workOut(path: Path, from: number, to: number): void {
  const { rig, clip, frame, places, bone } = path
  const ready = clipForRig(rig, clip)
  const pose = new Float64Array(rig.restPose.length)
  const until = performance.now() + BUDGET
  for (let k = from; k <= to; k++) {
    if (places[k]) continue
    if (performance.now() > until) return
    pose.set(rig.restPose)
    const time = k / clip.rate
    writeClip(ready, time, pose)
    places[k] = bonePoint(evaluate(rig, pose, frame, { time, simulation: null }), bone, 1)
  }
}

/** The path of a bone as far as it is known; what is missing is worked out after the picture. */
function pathOf(editor: Editor, rig: Rig, clip: Clip, bone: number, time: number): Path {
  const own = stateOf(editor)
  if (own.path?.rig !== rig || own.path.clip !== clip || own.path.bone !== bone)
    own.path = { rig, clip, bone, frame: makeFrame(rig), places: [] }
  const { path } = own
  const { from, to } = shownFrames(clip, time)
  let known = from
  while (known <= to && path.places[known]) known++
  if (known <= to && own.request === 0)
    own.request = requestAnimationFrame(() => {
      own.request = 0
      workOut(path, from, to)
      own.redraw()
    })
  return path
}

/** Times at which a bone has keys, whatever of it is keyed. */
const keyTimesOf = ({ layers }: Clip, bone: string): number[] =>
  layers.flatMap(({ tracks }) => addressesOf('bone', bone).flatMap((address) => tracks[address]?.keys.map((key) => key.time) ?? []))

export const motionPathMark: Mark = {
  layer: 'above',
  watch(editor, redraw) {
    stateOf(editor).redraw = redraw
    return useActing.of(editor).subscribe((s, before) => s.showsPath !== before.showsPath && redraw())
  },
  draw(editor, pen, camera, model, colours) {
    const { showsPath, time, isPlaying } = useActing.of(editor).getState()
    const { selection } = useSession.of(editor).getState()
    const clip = clipNow(editor)
    const bone = selection.kind === 'bone' ? model.rig.bones.index.get(selection.ids[0] ?? '') : undefined
    if (!showsPath || !clip || bone === undefined || isPlaying || useDocument.of(editor).getState().gesture !== null) return
    const { places } = pathOf(editor, model.rig, clip, bone, time)
    const { from, to } = shownFrames(clip, time)
    const id = nth(model.rig.bones.ids, bone)
    const keyed = keyTimesOf(clip, id)
    pen.strokeStyle = colours.ink
    pen.lineWidth = 1.25
    pen.setLineDash([2, 4])
    pen.beginPath()
    for (let k = from; k <= to; k++) {
      const place = places[k]
      if (!place) continue
      const p = toScreen(camera, place)
      pen.lineTo(p.x, p.y)
    }
    pen.stroke()
    pen.setLineDash([])
    let last = { x: Infinity, y: Infinity }
    for (let k = from; k <= to; k++) {
      const place = places[k]
      if (!place) continue
      const p = toScreen(camera, place)
      const isNow = k === Math.round(time * clip.rate)
      const isKey = keyed.some((t) => isSameTime(t, k / clip.rate))
      // Where it is slow, frames lie on each other: one dot stands for them.
      if (!isNow && !isKey && Math.hypot(p.x - last.x, p.y - last.y) < CLEAR) continue
      last = p
      pen.fillStyle = isNow ? colours.cord : isKey ? colours.panel : colours.ink
      pen.beginPath()
      pen.arc(p.x, p.y, isNow ? 4 : isKey ? 3 : 1.5, 0, 2 * Math.PI)
      pen.fill()
      if (isKey && !isNow) pen.stroke()
    }
  },
}
