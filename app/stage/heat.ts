/** Weights on the stage: heat in the colour of the selected bone, points in the colour of the bone that moves them. */
import { isWithinPart } from '@marionette/core/document/tree'
import { blendedOf, pointsByBone, posedField, weightsOfBone } from '@marionette/core/rig/weights'
import { useSession } from '../state/session'
import type { StageModel } from '../state/stageModel'
import { paintedWeights } from '../state/weigh'
import { toScreen, type Camera } from './camera'

type Pen = CanvasRenderingContext2D

/** Steps of heat; triangles of one step are filled together. */
const STEPS = 16
const STRONGEST = 0.88

export function drawWeights(pen: Pen, camera: Camera, model: StageModel, chains: readonly string[], paper: string): void {
  const { selection } = useSession.getState()
  const { puppet } = model.rig
  if (selection.kind === 'bone')
    for (const bone of selection.ids)
      for (const part of Object.keys(puppet.parts))
        if (blendedOf(puppet, part)?.bones.includes(bone)) drawHeat(pen, camera, model, part, bone, chains, paper)
  if (selection.kind === 'part') drawPoints(pen, camera, model, selection.ids, chains, paper)
}

/** The mesh of a bind from paper to the colour of a bone, by that bone's weight. */
function drawHeat(pen: Pen, camera: Camera, model: StageModel, part: string, bone: string, chains: readonly string[], paper: string): void {
  const { rig, frame } = model
  const bind = blendedOf(rig.puppet, part)!
  const at = rig.parts.index.get(part)
  if (at === undefined) return
  const { triangles } = bind.field
  const points = posedField(rig, frame, at, bind)
  const k = bind.bones.indexOf(bone)
  const weights = paintedWeights(part)?.column(k) ?? weightsOfBone(bind.field, k)
  const levels = Array.from({ length: STEPS }, () => new Path2D())
  for (let t = 0; t < triangles.length; t += 3) {
    const mean = (weights[triangles[t]!]! + weights[triangles[t + 1]!]! + weights[triangles[t + 2]!]!) / 3
    const path = levels[Math.min(STEPS - 1, Math.floor(mean * STEPS))]!
    for (let k = 0; k < 3; k++) {
      const v = 2 * triangles[t + k]!
      const x = points[v]! * camera.zoom + camera.x
      const y = points[v + 1]! * camera.zoom + camera.y
      if (k === 0) path.moveTo(x, y)
      else path.lineTo(x, y)
    }
    path.closePath()
  }
  const colour = chains[rig.puppet.bones[bone]!.colour - 1]!
  pen.lineWidth = 0.75
  pen.lineJoin = 'round'
  for (const [step, path] of levels.entries()) {
    const share = Math.round((100 * step) / (STEPS - 1))
    pen.fillStyle = pen.strokeStyle = `color-mix(in oklab, ${colour} ${share}%, ${paper})`
    pen.globalAlpha = STRONGEST
    pen.fill(path)
    // Neighbours of one step meet without a seam.
    pen.stroke(path)
  }
  pen.globalAlpha = 1
}

function drawPoints(pen: Pen, camera: Camera, model: StageModel, ids: readonly string[], chains: readonly string[], halo: string): void {
  const { rig, frame } = model
  const { puppet } = rig
  rig.drawings.slice(0, rig.shown).forEach((drawing, d) => {
    const part = rig.parts.ids[drawing.part]!
    if (!ids.some((id) => isWithinPart(puppet, part, id))) return
    for (const { bone, ...at } of pointsByBone(rig, frame, d)) {
      const p = toScreen(camera, at)
      pen.beginPath()
      pen.arc(p.x, p.y, 3, 0, 2 * Math.PI)
      pen.fillStyle = bone < 0 ? halo : chains[puppet.bones[rig.bones.ids[bone]!]!.colour - 1]!
      pen.strokeStyle = bone < 0 ? chains[0]! : halo
      pen.lineWidth = 1.25
      pen.fill()
      pen.stroke()
    }
  })
}
