/** Bones, pivots and selection over the artwork, in screen pixels. */
import type { Vec } from '@marionette/core/puppet/schema'
import { toRadians } from '@marionette/core/maths/geometry/affine'
import { bonePoint, posedOutline } from '@marionette/core/puppet/probe'
import { isWithinPart, partPath } from '@marionette/core/parts/tree'
import { isRestShown, useSession, type Selection } from '../editor/session'
import type { StageModel } from '../editor/stageModel'
import { toScreen, type Camera } from './camera'
import { areBonesShown, bonesAtHand } from './bonesShown'
import type { Mark } from './marks'
import type { Bone } from '@marionette/core/bones/records'
import { type StageTheme, currentTheme } from './theme'
import type { Editor } from '../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

export const LIMIT_RADIUS = 62

type Pen = CanvasRenderingContext2D

/** Draws everything that is not artwork. */
export function drawOverlay(editor: Editor, pen: Pen, camera: Camera, model: StageModel, marks: readonly Mark[]): void {
  const { selection, hover, onion } = useSession.of(editor).getState()
  const colours = currentTheme(editor)
  const showsBones = areBonesShown(editor)
  const draw = (layer: Mark['layer']): void => {
    for (const mark of marks) if (mark.layer === layer) mark.draw(editor, pen, camera, model, colours, showsBones)
  }
  drawCanvasEdge(pen, camera, model, colours)
  drawGuides(pen, camera, model, colours)
  draw('below')
  if (hover.kind === 'part' && hover.ids[0] !== selection.ids[0]) outlineParts(editor, pen, camera, model, hover, colours.twine, 1.25)
  if (selection.kind === 'part' && onion) drawOnion(editor, pen, camera, model, selection.ids[0], colours)
  if (selection.kind === 'part') outlineParts(editor, pen, camera, model, selection, colours.cord, 1.75)
  drawBones(editor, pen, camera, model, colours, showsBones ? null : bonesAtHand(editor))
  draw('bones')
  if (isRestShown(editor) && selection.kind === 'bone' && selection.ids.length === 1)
    drawLimits(editor, pen, camera, model, nth(selection.ids, 0), colours)
  draw('above')
  if (selection.kind === 'part' && selection.ids.length === 1) drawPivot(pen, camera, model, nth(selection.ids, 0), colours)
}

/** A quiet corner mark at each corner of the canvas. */
function drawCanvasEdge(pen: Pen, camera: Camera, model: StageModel, colours: StageTheme): void {
  const { width, height } = model.rig.puppet.canvas
  pen.strokeStyle = colours.twine
  pen.lineWidth = 1
  const arm = 10
  for (const [x, y, sx, sy] of [
    [0, 0, 1, 1],
    [width, 0, -1, 1],
    [0, height, 1, -1],
    [width, height, -1, -1],
  ] as const) {
    const p = toScreen(camera, { x, y })
    pen.beginPath()
    pen.moveTo(p.x + sx * arm, p.y)
    pen.lineTo(p.x, p.y)
    pen.lineTo(p.x, p.y + sy * arm)
    pen.stroke()
  }
}

/** Guides run across the whole stage. */
function drawGuides(pen: Pen, camera: Camera, model: StageModel, colours: StageTheme): void {
  const { guides } = model.rig.puppet
  if (guides.length === 0) return
  pen.strokeStyle = colours.verdigris
  pen.lineWidth = 1
  pen.globalAlpha = 0.7
  pen.beginPath()
  for (const { axis, at } of guides) {
    const p = toScreen(camera, { x: at, y: at })
    pen.moveTo(axis === 'x' ? p.x : 0, axis === 'x' ? 0 : p.y)
    pen.lineTo(axis === 'x' ? p.x : pen.canvas.width, axis === 'x' ? pen.canvas.height : p.y)
  }
  pen.stroke()
  pen.globalAlpha = 1
}

/** Whether nothing between a part and one around it is out of sight, as an alternate that does not show. */
function isShownIn({ rig, frame }: StageModel, part: number, around: string): boolean {
  for (let p = part; p >= 0 && rig.parts.ids[p] !== around; p = rig.parts.parent[p]!) if (frame.shown[p] === 0) return false
  return true
}

/** Outlines of the alternates beside the one that the selected part is, or is in. */
function drawOnion(editor: Editor, pen: Pen, camera: Camera, model: StageModel, selected: string | undefined, colours: StageTheme): void {
  const { puppet } = model.rig
  if (selected === undefined || !puppet.parts[selected]) return
  const path = partPath(puppet, selected)
  const at = path.findLastIndex((p, k) => p.swap !== null && k < path.length - 1)
  if (at < 0) return
  const others = nth(path, at).children.filter((id) => id !== nth(path, at + 1).id)
  pen.setLineDash([4, 3])
  for (const id of others)
    strokeOutlines(
      editor,
      pen,
      outlinePath(camera, model, (part) => isWithinPart(puppet, part, id)),
      colours.verdigris,
      1,
    )
  pen.setLineDash([])
}

/** Outlines of the drawings of parts and of all that shows in them. */
function outlineParts(editor: Editor, pen: Pen, camera: Camera, model: StageModel, what: Selection, colour: string, width: number): void {
  const { rig } = model
  const ids = what.ids.filter((id) => rig.puppet.parts[id])
  if (ids.length === 0) return
  const isMeant = (part: string, at: number): boolean => ids.some((id) => isWithinPart(rig.puppet, part, id) && isShownIn(model, at, id))
  strokeOutlines(editor, pen, outlinePath(camera, model, isMeant), colour, width)
}

/** Outlines of some drawings on the screen; told the id of a drawing's part and its place in the part table. */
function outlinePath(camera: Camera, { rig, frame }: StageModel, isMeant: (part: string, at: number) => boolean): Path2D {
  const path = new Path2D()
  rig.drawings.forEach((drawing, d) => {
    if (!isMeant(nth(rig.parts.ids, drawing.part), drawing.part)) return
    for (const shape of drawing.geometry.shapes) {
      for (const { points, closed } of posedOutline(frame, d, shape)) {
        for (let i = 0; i < points.length; i += 2) {
          const x = points[i]! * camera.zoom + camera.x
          const y = points[i + 1]! * camera.zoom + camera.y
          if (i === 0) path.moveTo(x, y)
          else path.lineTo(x, y)
        }
        if (closed) path.closePath()
      }
    }
  })
  return path
}

/** A line with a halo, so that it is seen on any colour. */
function strokeOutlines(editor: Editor, pen: Pen, path: Path2D, colour: string, width: number): void {
  pen.lineJoin = 'round'
  pen.strokeStyle = currentTheme(editor).halo
  pen.lineWidth = width + 2
  pen.globalAlpha = 0.55
  pen.stroke(path)
  pen.globalAlpha = 1
  pen.strokeStyle = colour
  pen.lineWidth = width
  pen.stroke(path)
}

/** @param only the bones that are drawn; null for all */
function drawBones(editor: Editor, pen: Pen, camera: Camera, model: StageModel, colours: StageTheme, only: readonly string[] | null): void {
  const { rig, frame } = model
  const { selection, hover } = useSession.of(editor).getState()
  const isIn = (what: Selection, id: string): boolean => what.kind === 'bone' && what.ids.includes(id)
  const order = rig.bones.ids
    .map((id, bone) => ({ id, bone }))
    .filter(({ id }) => only === null || only.includes(id))
    .sort((a, b) => Number(isIn(selection, a.id)) - Number(isIn(selection, b.id)))
  for (const { id, bone } of order) {
    const colour = nth(colours.chains, boneOf(rig.puppet, id).colour - 1)
    const a = toScreen(camera, bonePoint(frame, bone, 0))
    const b = toScreen(camera, bonePoint(frame, bone, 1))
    drawBone(pen, a, b, colour, isIn(selection, id) ? 'selected' : isIn(hover, id) ? 'hovered' : 'plain', colours)
    const { label } = boneOf(rig.puppet, id)
    if (label) drawLabel(pen, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, label, colours)
  }
}

/** The remark of a bone beside its rod. */
function drawLabel(pen: Pen, at: Vec, label: string, colours: StageTheme): void {
  pen.font = '500 11px "Instrument Sans Variable", sans-serif'
  pen.textAlign = 'left'
  pen.textBaseline = 'middle'
  pen.lineJoin = 'round'
  pen.strokeStyle = colours.halo
  pen.lineWidth = 3
  pen.strokeText(label, at.x + 10, at.y)
  pen.fillStyle = colours.ink
  pen.fillText(label, at.x + 10, at.y)
}

/** A screw-eye ring at the pivot, a tapering rod, a bead at the tip. */
function drawBone(pen: Pen, a: Vec, b: Vec, colour: string, state: 'plain' | 'hovered' | 'selected', colours: StageTheme): void {
  const length = Math.hypot(b.x - a.x, b.y - a.y)
  const ring = Math.min(5.5, Math.max(3, length / 5))
  const wide = Math.min(4, length / 9)
  const ux = (b.x - a.x) / Math.max(length, 1e-6)
  const uy = (b.y - a.y) / Math.max(length, 1e-6)
  const rod = new Path2D()
  const from = { x: a.x + ux * ring, y: a.y + uy * ring }
  rod.moveTo(from.x - uy * wide, from.y + ux * wide)
  rod.lineTo(b.x - uy * 0.9, b.y + ux * 0.9)
  rod.lineTo(b.x + uy * 0.9, b.y - ux * 0.9)
  rod.lineTo(from.x + uy * wide, from.y - ux * wide)
  rod.closePath()
  pen.lineJoin = 'round'
  const isSelected = state === 'selected'
  pen.strokeStyle = isSelected ? colours.cord : colours.halo
  pen.lineWidth = isSelected ? 3.5 : 2.5
  pen.globalAlpha = isSelected ? 1 : 0.9
  pen.stroke(rod)
  pen.fillStyle = colour
  pen.globalAlpha = state === 'plain' ? 0.78 : 1
  pen.fill(rod)
  pen.globalAlpha = 1
  dot(pen, b, 2.8, colour, colours.halo)
  ringAt(pen, a, ring, colour, isSelected ? colours.cord : colours.halo)
}

function dot(pen: Pen, p: Vec, radius: number, fill: string, halo: string): void {
  pen.beginPath()
  pen.arc(p.x, p.y, radius, 0, 2 * Math.PI)
  pen.fillStyle = fill
  pen.strokeStyle = halo
  pen.lineWidth = 2
  pen.stroke()
  pen.fill()
}

function ringAt(pen: Pen, p: Vec, radius: number, colour: string, halo: string): void {
  pen.beginPath()
  pen.arc(p.x, p.y, radius, 0, 2 * Math.PI)
  pen.strokeStyle = halo
  pen.lineWidth = 5
  pen.stroke()
  pen.strokeStyle = colour
  pen.lineWidth = 2.25
  pen.stroke()
}

/** Spot of a limit's tick: the rest direction turned by the limit, at a distance from the pivot. */
export function limitTick(bone: Bone, degrees: number, radius: number): Vec {
  const rest = Math.atan2(bone.end.y - bone.start.y, bone.end.x - bone.start.x)
  const angle = rest - toRadians(degrees)
  return { x: bone.start.x + Math.cos(angle) * radius, y: bone.start.y + Math.sin(angle) * radius }
}

/** A thin arc with two ticks; the side without a limit is dashed. */
function drawLimits(editor: Editor, pen: Pen, camera: Camera, model: StageModel, id: string, colours: StageTheme): void {
  const bone = model.rig.puppet.bones[id]
  if (!bone) return
  const isEditing = useSession.of(editor).getState().tools['bones'] === 'limits'
  const { min, max } = bone.limits
  if (min === null && max === null && !isEditing) return
  const colour = nth(colours.chains, bone.colour - 1)
  const centre = toScreen(camera, bone.start)
  const rest = Math.atan2(bone.end.y - bone.start.y, bone.end.x - bone.start.x)
  for (const [limit, open] of [
    [max, 170],
    [min, -170],
  ] as const) {
    const to = limit ?? open
    pen.beginPath()
    pen.strokeStyle = colour
    pen.lineWidth = 1.5
    pen.setLineDash(limit === null ? [3, 5] : [])
    pen.arc(centre.x, centre.y, LIMIT_RADIUS, rest, rest - toRadians(to), to > 0)
    pen.stroke()
    pen.setLineDash([])
    const angle = rest - toRadians(to)
    pen.beginPath()
    pen.lineWidth = isEditing ? 3 : 2
    pen.moveTo(centre.x + Math.cos(angle) * (LIMIT_RADIUS - 7), centre.y + Math.sin(angle) * (LIMIT_RADIUS - 7))
    pen.lineTo(centre.x + Math.cos(angle) * (LIMIT_RADIUS + 7), centre.y + Math.sin(angle) * (LIMIT_RADIUS + 7))
    pen.stroke()
    if (limit === null) continue
    pen.font = '500 11px "JetBrains Mono Variable", monospace'
    pen.textAlign = 'center'
    pen.textBaseline = 'middle'
    const x = centre.x + Math.cos(angle) * (LIMIT_RADIUS + 20)
    const y = centre.y + Math.sin(angle) * (LIMIT_RADIUS + 20)
    pen.strokeStyle = colours.halo
    pen.lineWidth = 3
    pen.strokeText(`${limit}°`, x, y)
    pen.fillStyle = colours.ink
    pen.fillText(`${limit}°`, x, y)
  }
}

/** Cross and circle where the selected part turns. */
function drawPivot(pen: Pen, camera: Camera, model: StageModel, id: string, colours: StageTheme): void {
  const { rig, frame } = model
  const at = rig.parts.index.get(id)
  if (at === undefined) return
  const { pivot } = partOf(rig.puppet, id)
  const m = frame.parts
  const k = 6 * at
  const p = toScreen(camera, {
    x: m[k]! * pivot.x + m[k + 2]! * pivot.y + m[k + 4]!,
    y: m[k + 1]! * pivot.x + m[k + 3]! * pivot.y + m[k + 5]!,
  })
  for (const [stroke, width] of [
    [colours.halo, 4],
    [colours.cord, 1.75],
  ] as const) {
    pen.strokeStyle = stroke
    pen.lineWidth = width
    pen.beginPath()
    pen.arc(p.x, p.y, 5.5, 0, 2 * Math.PI)
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const) {
      pen.moveTo(p.x + dx * 5.5, p.y + dy * 5.5)
      pen.lineTo(p.x + dx * 11, p.y + dy * 11)
    }
    pen.stroke()
  }
}
