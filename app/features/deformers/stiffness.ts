/** Painting stiffness into the mesh of pins: seen as heat while it is painted, solved anew when the stroke is kept. */
import { dabStiffness } from '@marionette/core/deformers/stiffness'
import type { Deformer, DeformerOf, Vec } from '@marionette/core/puppet/schema'
import { setDeformer } from '@marionette/core/deformers/commands'
import { posedPinMesh } from '@marionette/core/posing/handles'
import { perform } from '../../editor/document'
import { useDeform } from './worked'
import { toScreen } from '../../stage/camera'
import { brushStrength, radiusAfter, stepsTo } from '../../stage/stroke'
import type { ToolEvent, ToolHost } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

interface Worked {
  readonly part: string
  readonly deformer: Deformer
}

interface Own {
  stroke: { readonly id: string; readonly stiffness: Float64Array; readonly places: Float64Array; last: Vec } | null
  pointer: Vec | null
}

const stateOf = editorState((): Own => ({ stroke: null, pointer: null }))

export const paintsStiffness = (editor: Editor, deformer: Deformer): deformer is DeformerOf<'pins'> =>
  deformer.kind === 'pins' && useDeform.of(editor).getState().way === 'stiffness'

export function paintStiffness(event: ToolEvent, host: ToolHost, { part, deformer }: Worked): void {
  const own = stateOf(host.editor)
  if (event.type === 'cancel') return dropStiffness(host.editor)
  own.pointer = event.at
  if (event.type === 'down' && deformer.kind === 'pins') {
    const places = posedPinMesh(host.model.frame, deformer.id)
    own.stroke = places && { id: deformer.id, stiffness: Float64Array.from(deformer.stiffness), places, last: event.at }
    dab(host.editor, event)
  }
  if (event.type === 'move' && own.stroke) dabTo(host.editor, event)
  if (event.type === 'up' && own.stroke && deformer.kind === 'pins') {
    const stiffness = Array.from(own.stroke.stiffness, (s) => Math.round(s * 1000) / 1000)
    own.stroke = null
    if (stiffness.some((s, i) => s !== deformer.stiffness[i]))
      perform(host.editor, [edit(setDeformer, { part, deformer: { ...deformer, stiffness } })], `Paint stiffness of ${deformer.name}`)
  }
  host.redraw()
}

function dab(editor: Editor, { at: { x, y }, pressure }: Pick<ToolEvent, 'at' | 'pressure'>): void {
  const own = stateOf(editor)
  if (!own.stroke) return
  const { mode, radius, strength } = useDeform.of(editor).getState()
  dabStiffness(own.stroke.stiffness, own.stroke.places, x, y, {
    mode,
    radius,
    strength: brushStrength(strength, pressure),
  })
  own.stroke.last = { x, y }
}

/** Dabs along the way to a spot, a quarter of the radius apart. */
function dabTo(editor: Editor, { at, pressure }: ToolEvent): void {
  const own = stateOf(editor)
  if (!own.stroke) return
  for (const spot of stepsTo(own.stroke.last, at, useDeform.of(editor).getState().radius / 4)) dab(editor, { at: spot, pressure })
}

/** [ and ] make the brush smaller and larger; tells whether the key was one of them. */
export function sizeBrush(key: string, host: ToolHost): boolean {
  const radius = radiusAfter(key, useDeform.of(host.editor).getState().radius, 1000)
  if (radius === null) return false
  useDeform.of(host.editor).setState({ radius })
  host.redraw()
  return true
}

/** Stiffness at which the heat is full, up and down. */
const FULL = Math.log(8)
const STEPS = 8

/** Stiff triangles in verdigris, soft ones in brass, and the brush. */
export function drawStiffness(pen: CanvasRenderingContext2D, host: ToolHost, deformer: Deformer): void {
  const own = stateOf(host.editor)
  if (deformer.kind !== 'pins') return
  const places = own.stroke?.id === deformer.id ? own.stroke.places : posedPinMesh(host.model.frame, deformer.id)
  const stiffness = own.stroke?.id === deformer.id ? own.stroke.stiffness : deformer.stiffness
  const { verdigris, brass, cord, halo } = currentTheme(host.editor)
  const levels = Array.from({ length: 2 * STEPS + 1 }, () => new Path2D())
  const { triangles } = deformer
  for (let t = 0; t < triangles.length && places; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    const mean = corners.reduce((sum, v) => sum + Math.log(stiffness[v]!), 0) / 3
    const path = nth(levels, STEPS + Math.round(STEPS * Math.min(1, Math.max(-1, mean / FULL))))
    corners.forEach((v, k) => {
      const p = toScreen(host.camera, { x: places[2 * v]!, y: places[2 * v + 1]! })
      if (k === 0) path.moveTo(p.x, p.y)
      else path.lineTo(p.x, p.y)
    })
    path.closePath()
  }
  levels.forEach((path, level) => {
    const share = Math.abs(level - STEPS) / STEPS
    pen.globalAlpha = 0.14 + 0.76 * share
    pen.fillStyle = share === 0 ? halo : level > STEPS ? verdigris : brass
    pen.fill(path)
  })
  pen.globalAlpha = 1
  if (!own.pointer) return
  const p = toScreen(host.camera, own.pointer)
  pen.beginPath()
  pen.arc(p.x, p.y, useDeform.of(host.editor).getState().radius * host.camera.zoom, 0, 2 * Math.PI)
  pen.strokeStyle = cord
  pen.lineWidth = 1.25
  pen.stroke()
}

/** Ends what is in progress. */
export function dropStiffness(editor: Editor): void {
  const own = stateOf(editor)
  own.stroke = null
  own.pointer = null
}
