/** While a response is recorded: how the drawing is at rest, dashed, and from where recorded points have come. */
import { boneOfChannel } from '@marionette/core/responses/order'
import { channelOf } from '@marionette/core/puppet/channels'
import {
  changeKey,
  channelOfChange,
  partOfChange,
  type ChangeOf,
  type Puppet,
  type Response,
  type Stop,
} from '@marionette/core/puppet/schema'
import { isWithinPart } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { posedOutline, posedPoint } from '@marionette/core/puppet/probe'
import { openPuppet } from '../../editor/document'
import { recorded } from './recording'
import { heldMoment } from '../../editor/speeds'
import type { StageModel } from '../../editor/stageModel'
import { toScreen, type Camera } from '../../stage/camera'
import { isWithinBone } from '@marionette/core/bones/tree'
import { partsOfBone } from '@marionette/core/binds/tree'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Frame } from '@marionette/core/puppet/frame'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

type Pen = CanvasRenderingContext2D

interface Ghost {
  readonly drawings: Rig['drawings']
  readonly stop: string
  readonly pose: Puppet['pose']
  /** The puppet with the inputs at rest, and as it was before this stop was recorded. */
  readonly rest: Frame
  readonly before: Frame
}

interface Own {
  kept: Ghost | null
}

const stateOf = editorState((): Own => ({ kept: null }))

function ghostOf(editor: Editor, rig: Rig, puppet: Puppet, response: Response, stop: Stop): Ghost {
  const own = stateOf(editor)
  // What is recorded at the stop changes neither frame: both are made once for a pose and the form of the drawings.
  if (own.kept?.drawings === rig.drawings && own.kept.stop === stop.id && own.kept.pose === puppet.pose) return own.kept
  const bare = { ...response, stops: response.stops.map((s) => (s.id === stop.id ? { ...s, changes: [] } : s)) }
  const earlier = compile({ ...puppet, responses: puppet.responses.map((r) => (r.id === response.id ? bare : r)) }, rig)
  const posed = (pose: Puppet['pose'], isHeld: boolean): Frame => {
    const moment = isHeld ? heldMoment(editor, earlier) : undefined
    return evaluate(earlier, writePose(earlier, pose, new Float64Array(earlier.restPose.length)), makeFrame(earlier), moment)
  }
  const atRest = Object.fromEntries(
    response.inputs.flatMap((input) => (input.kind === 'channel' ? [[input.channel, channelOf(puppet, input.channel)?.rest ?? 0]] : [])),
  )
  const rest = posed({ ...puppet.pose, ...atRest }, false)
  own.kept = { drawings: rig.drawings, stop: stop.id, pose: puppet.pose, rest, before: posed(puppet.pose, true) }
  return own.kept
}

/** Parts that the input moves, or the stop changes. */
function concerned(puppet: Puppet, { inputs }: Response, { changes }: Stop): Set<string> {
  const changed = changes.flatMap((c) => partOfChange(c) ?? /^part\/([^/]+)\//.exec(channelOfChange(c) ?? '')?.[1] ?? [])
  const bones = inputs.flatMap((input) => (input.kind === 'channel' ? (boneOfChannel(input.channel) ?? []) : []))
  const below = Object.keys(puppet.bones).filter((id) => bones.some((bone) => isWithinBone(puppet, id, bone)))
  return new Set([...changed, ...below.flatMap((bone) => partsOfBone(puppet, bone).map((p) => p.id))])
}

/** Draws what was there before over the artwork; nothing while nothing is recorded. */
export function drawRecordMarks(editor: Editor, pen: Pen, camera: Camera, { rig, frame }: StageModel): void {
  // A rig is kept while the pose alone changes: its own puppet may have an older one.
  const puppet = openPuppet(editor)
  const now = recorded(editor, puppet)
  if (!now) return
  const ghost = ghostOf(editor, rig, puppet, now.response, now.stop)
  drawRest(editor, pen, camera, frame, ghost.rest, concerned(puppet, now.response, now.stop))
  drawTails(editor, pen, camera, frame, ghost.before, now.stop)
}

/** A shape is shown if it is at least this much of its drawing, and some of it at least so far from where it is now, px. */
const LARGE = 0.3
const APART = 2

function drawRest(editor: Editor, pen: Pen, camera: Camera, now: Frame, rest: Frame, parts: ReadonlySet<string>): void {
  const colours = currentTheme(editor)
  const path = new Path2D()
  let label: { x: number; y: number } | null = null
  now.rig.drawings.slice(0, now.rig.shown).forEach(({ part, geometry }, d) => {
    const id = nth(now.rig.parts.ids, part)
    if (![...parts].some((p) => isWithinPart(now.rig.puppet, id, p)) || now.shown[part] === 0) return
    const outlines = geometry.shapes.map((shape) => posedOutline(rest, d, shape))
    const sizes = outlines.map(sizeOf)
    const largest = Math.max(...sizes)
    geometry.shapes.forEach((shape, s) => {
      if (sizes[s]! < LARGE * largest || !isElsewhere(nth(outlines, s), posedOutline(now, d, shape))) return
      for (const { points, closed } of nth(outlines, s)) {
        for (let i = 0; i < points.length; i += 2) {
          const p = toScreen(camera, { x: points[i]!, y: points[i + 1]! })
          if (i === 0) path.moveTo(p.x, p.y)
          else path.lineTo(p.x, p.y)
          if (!label || p.y > label.y) label = p
        }
        if (closed) path.closePath()
      }
    })
  })
  if (!label) return
  pen.fillStyle = colours.panel
  pen.globalAlpha = 0.32
  pen.fill(path, 'nonzero')
  pen.globalAlpha = 0.75
  pen.strokeStyle = colours.ink
  pen.lineWidth = 1.25
  pen.setLineDash([4, 4])
  pen.stroke(path)
  pen.setLineDash([])
  pen.globalAlpha = 1
  sayRest(editor, pen, label)
}

function sayRest(editor: Editor, pen: Pen, at: { x: number; y: number }): void {
  const { halo, ink } = currentTheme(editor)
  pen.font = '600 11px "Instrument Sans Variable", sans-serif'
  pen.textAlign = 'center'
  pen.textBaseline = 'top'
  pen.lineJoin = 'round'
  pen.strokeStyle = halo
  pen.lineWidth = 3
  pen.strokeText('Rest', at.x, at.y + 6)
  pen.fillStyle = ink
  pen.fillText('Rest', at.x, at.y + 6)
}

type Outline = ReturnType<typeof posedOutline>

/** Half the way round the box of an outline. */
function sizeOf(outline: Outline): number {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const { points } of outline)
    for (let i = 0; i < points.length; i += 2) {
      minX = Math.min(minX, points[i]!)
      maxX = Math.max(maxX, points[i]!)
      minY = Math.min(minY, points[i + 1]!)
      maxY = Math.max(maxY, points[i + 1]!)
    }
  return Math.max(0, maxX - minX) + Math.max(0, maxY - minY)
}

/** Whether an outline is not where another form of it is. Both start at the same points; between them they may have more or fewer. */
const isElsewhere = (a: Outline, b: Outline): boolean =>
  Math.abs(sizeOf(a) - sizeOf(b)) > APART ||
  a.some(({ points }, k) => Math.hypot(points[0]! - nth(b, k).points[0]!, points[1]! - nth(b, k).points[1]!) > APART)

/** Tails shorter than this are not drawn, px of the screen. */
const SHORT = 2

function drawTails(editor: Editor, pen: Pen, camera: Camera, now: Frame, before: Frame, { changes }: Stop): void {
  const path = new Path2D()
  const moved = new Map(
    changes.flatMap((c) => (c.kind === 'points' && !c.muted ? [[changeKey(c), c]] : [])) as [string, ChangeOf<'points'>][],
  )
  now.rig.drawings.forEach(({ part, reshape, drawing }, d) => {
    const change = moved.get(`points/${now.rig.parts.ids[part]}/${drawing.id}`)
    if (!change || !reshape) return
    const ids = new Set(change.ids)
    for (const { id, anchor } of reshape.points) {
      if (!ids.has(id)) continue
      const [from, to] = [toScreen(camera, posedPoint(before, d, anchor)), toScreen(camera, posedPoint(now, d, anchor))]
      if (Math.hypot(to.x - from.x, to.y - from.y) < SHORT) continue
      path.moveTo(from.x, from.y)
      path.lineTo(to.x, to.y)
      path.moveTo(from.x + 2, from.y)
      path.arc(from.x, from.y, 2, 0, 2 * Math.PI)
    }
  })
  const { halo, cord } = currentTheme(editor)
  for (const [colour, width] of [
    [halo, 3.5],
    [cord, 1.5],
  ] as const) {
    pen.strokeStyle = colour
    pen.lineWidth = width
    pen.stroke(path)
  }
}
