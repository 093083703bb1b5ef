/** Painting stiffness into the mesh of pins: seen as heat while it is painted, solved anew when the stroke is kept. */
import { dabStiffness } from '@marionette/core/artwork/stiffness'
import type { Deformer, DeformerOf, Vec } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { setDeformer } from '@marionette/core/edit/deformers'
import { posedPinMesh } from '@marionette/core/rig/handles'
import { perform } from '../../state/document'
import { useDeform } from '../../state/deform'
import { toScreen } from '../camera'
import { currentTheme } from '../overlay'
import { radiusAfter, stepsTo } from './stroke'
import type { ToolEvent, ToolHost } from './tool'

interface Worked {
  readonly part: string
  readonly deformer: Deformer
}

let stroke: { readonly id: string; readonly stiffness: Float64Array; readonly places: Float64Array; last: Vec } | null = null
let pointer: Vec | null = null

export const paintsStiffness = (deformer: Deformer): deformer is DeformerOf<'pins'> =>
  deformer.kind === 'pins' && useDeform.getState().way === 'stiffness'

export function paintStiffness(event: ToolEvent, host: ToolHost, { part, deformer }: Worked): void {
  if (event.type === 'cancel') return dropStiffness()
  pointer = event.at
  if (event.type === 'down' && deformer.kind === 'pins') {
    const places = posedPinMesh(host.model.frame, deformer.id)
    stroke = places && { id: deformer.id, stiffness: Float64Array.from(deformer.stiffness), places, last: event.at }
    dab(event.at)
  }
  if (event.type === 'move' && stroke) dabTo(event.at)
  if (event.type === 'up' && stroke && deformer.kind === 'pins') {
    const stiffness = Array.from(stroke.stiffness, (s) => Math.round(s * 1000) / 1000)
    stroke = null
    if (stiffness.some((s, i) => s !== deformer.stiffness[i]))
      perform([edit(setDeformer, { part, deformer: { ...deformer, stiffness } })], `Paint stiffness of ${deformer.name}`)
  }
  host.redraw()
}

function dab({ x, y }: Vec): void {
  if (!stroke) return
  const { mode, radius, strength } = useDeform.getState()
  dabStiffness(stroke.stiffness, stroke.places, x, y, { mode, radius, strength: strength / 100 })
  stroke.last = { x, y }
}

/** Dabs along the way to a spot, a quarter of the radius apart. */
function dabTo(at: Vec): void {
  if (!stroke) return
  for (const spot of stepsTo(stroke.last, at, useDeform.getState().radius / 4)) dab(spot)
}

/** [ and ] make the brush smaller and larger; tells whether the key was one of them. */
export function sizeBrush(key: string, host: ToolHost): boolean {
  const radius = radiusAfter(key, useDeform.getState().radius, 1000)
  if (radius === null) return false
  useDeform.setState({ radius })
  host.redraw()
  return true
}

/** Stiffness at which the heat is full, up and down. */
const FULL = Math.log(8)
const STEPS = 8

/** Stiff triangles in verdigris, soft ones in brass, and the brush. */
export function drawStiffness(pen: CanvasRenderingContext2D, host: ToolHost, deformer: Deformer): void {
  if (deformer.kind !== 'pins') return
  const places = stroke?.id === deformer.id ? stroke.places : posedPinMesh(host.model.frame, deformer.id)
  const stiffness = stroke?.id === deformer.id ? stroke.stiffness : deformer.stiffness
  const { verdigris, brass, cord, halo } = currentTheme()
  const levels = Array.from({ length: 2 * STEPS + 1 }, () => new Path2D())
  const { triangles } = deformer
  for (let t = 0; t < triangles.length && places; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    const mean = corners.reduce((sum, v) => sum + Math.log(stiffness[v]!), 0) / 3
    const path = levels[STEPS + Math.round(STEPS * Math.min(1, Math.max(-1, mean / FULL)))]!
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
  if (!pointer) return
  const p = toScreen(host.camera, pointer)
  pen.beginPath()
  pen.arc(p.x, p.y, useDeform.getState().radius * host.camera.zoom, 0, 2 * Math.PI)
  pen.strokeStyle = cord
  pen.lineWidth = 1.25
  pen.stroke()
}

/** Ends what is in progress. */
export function dropStiffness(): void {
  stroke = null
  pointer = null
}
