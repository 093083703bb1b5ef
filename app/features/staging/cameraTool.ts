/** The camera, moved on the stage: its frame is dragged, made larger or smaller by a corner, and turned by the knob under its upper edge. */
import { Video } from 'lucide-react'
import { cameraCorners, newCamera } from '@marionette/core/staging/camera'
import { cameraChannel, cameraIn, type CameraField } from '@marionette/core/staging/channels'
import { setCamera } from '@marionette/core/staging/commands'
import { ZOOMS, type Camera as Shot } from '@marionette/core/staging/records'
import { edit } from '@marionette/core/kernel/command'
import { toDegrees } from '@marionette/core/maths/geometry/affine'
import { nth } from '@marionette/core/kernel/sure'
import { setPose } from '@marionette/core/poses/commands'
import type { Vec } from '@marionette/core/puppet/schema'
import { beginGesture, cancelGesture, commitGesture, openPuppet, perform, updateGesture, useDocument } from '../../editor/document'
import { editorState, type Editor } from '../../editor/editor'
import type { Tool, ToolHost } from '../../stage/tool'

type Grip = 'pan' | 'zoom' | 'turn'

interface Drag {
  readonly grip: Grip
  readonly from: Vec
  readonly shot: Shot
  readonly hasMoved: boolean
}

const stateOf = editorState((): { drag: Drag | null } => ({ drag: null }))

/** How near to a corner or to the knob a press means it, screen px. */
const NEAR = 12
/** How far above the upper edge the knob stands, screen px: below it, as that edge is often the upper edge of the stage. */
export const KNOB = -26

const distance = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

/** Where the knob stands that turns a frame, for an edge that is so many canvas px away. */
export function knobOf(shot: Shot, away: number): Vec {
  const [a, b, c] = cameraCorners(shot) as [Vec, Vec, Vec, Vec]
  const high = distance(b, c) || 1
  return { x: (a.x + b.x) / 2 + ((b.x - c.x) / high) * away, y: (a.y + b.y) / 2 + ((b.y - c.y) / high) * away }
}

function gripAt(shot: Shot, at: Vec, host: ToolHost): Grip {
  if (distance(knobOf(shot, host.px(KNOB)), at) < host.px(NEAR)) return 'turn'
  return cameraCorners(shot).some((corner) => distance(corner, at) < host.px(NEAR)) ? 'zoom' : 'pan'
}

/** What a drag to a spot makes of the camera. */
function dragged({ grip, from, shot }: Drag, at: Vec, isStraight: boolean): Partial<Record<CameraField, number>> {
  const rounded = (v: number): number => Math.round(v * 100) / 100
  if (grip === 'pan') {
    const [dx, dy] = [at.x - from.x, at.y - from.y]
    // Along one direction alone, where that is wanted.
    const [x, y] = isStraight ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]) : [dx, dy]
    return { x: rounded(shot.x + x), y: rounded(shot.y + y) }
  }
  if (grip === 'zoom') {
    const share = distance(from, shot) / Math.max(1e-6, distance(at, shot))
    return { zoom: Math.min(ZOOMS.nearest, Math.max(ZOOMS.farthest, rounded(shot.zoom * share * 10) / 10)) }
  }
  const angleTo = (p: Vec): number => toDegrees(Math.atan2(-(p.y - shot.y), p.x - shot.x))
  const turned = shot.angle + angleTo(at) - angleTo(from)
  const whole = turned - 360 * Math.round((turned - shot.angle) / 360)
  return { angle: isStraight ? 15 * Math.round(whole / 15) : rounded(whole) }
}

/** Poses the camera: into the open clip where one is. */
export const poseCamera = (editor: Editor, fields: Partial<Record<CameraField, number>>): ReturnType<typeof edit> =>
  edit(setPose, {
    values: Object.fromEntries(
      Object.entries(fields).map(([field, value]) => [cameraChannel(openPuppet(editor), field as CameraField), value]),
    ),
  })

export const putUpCamera = (editor: Editor): boolean =>
  perform(editor, [edit(setCamera, { camera: newCamera(openPuppet(editor).canvas) })], 'Put up a camera')

export const cameraTool: Tool = {
  id: 'camera',
  name: 'Camera',
  words: 'frame pan zoom turn shot view',
  icon: Video,
  cursor: 'move',
  hint: [
    ['Drag', 'moves the frame'],
    ['A corner', 'comes nearer or goes away'],
    ['The knob', 'turns it'],
  ],
  hintNow: (editor) => (openPuppet(editor).stage.camera ? null : [['Click', 'puts up a camera that sees all of the canvas']]),
  watch: (editor, listener) =>
    useDocument.of(editor).subscribe((s, before) => s.puppet?.stage.camera !== before.puppet?.stage.camera && listener()),
  cursorAt(at, host) {
    const shot = cameraIn(openPuppet(host.editor))
    const grip = shot && gripAt(shot, at, host)
    return grip === null ? 'copy' : grip === 'zoom' ? 'nwse-resize' : grip === 'turn' ? 'grab' : null
  },
  pointer(event, host) {
    const { editor } = host
    const own = stateOf(editor)
    if (event.type === 'cancel') return this.cancel(editor)
    const shot = cameraIn(openPuppet(editor))
    if (event.type === 'down') {
      if (!shot) return void putUpCamera(editor)
      own.drag = { grip: gripAt(shot, event.at, host), from: event.at, shot, hasMoved: false }
    } else if (event.type === 'move' && own.drag && event.dragging) {
      if (!own.drag.hasMoved) beginGesture(editor, NAMES[own.drag.grip])
      own.drag = { ...own.drag, hasMoved: true }
      updateGesture(editor, [poseCamera(editor, dragged(own.drag, event.at, event.shift))])
    } else if (event.type === 'up' && own.drag) {
      if (own.drag.hasMoved) commitGesture(editor)
      own.drag = null
    }
    host.redraw()
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.drag?.hasMoved) cancelGesture(editor)
    own.drag = null
  },
}

const NAMES: Readonly<Record<Grip, string>> = { pan: 'Pan camera', zoom: 'Zoom camera', turn: 'Turn camera' }

/** The corners of a frame and its knob, to be drawn. */
export const handlesOf = (shot: Shot, away: number): { corners: Vec[]; knob: Vec; top: Vec } => {
  const corners = cameraCorners(shot)
  const [a, b] = [nth(corners, 0), nth(corners, 1)]
  return { corners, knob: knobOf(shot, away), top: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } }
}
