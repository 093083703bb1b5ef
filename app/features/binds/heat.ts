/** Weights on the stage: heat in the colour of the selected bone, points in the colour of the bone that moves them. */
import { isWithinPart } from '@marionette/core/parts/tree'
import { blendedOf, pointsByBone, posedField, weightsOfBone } from '@marionette/core/placement/posedWeights'
import { useSession } from '../../editor/session'
import type { StageModel } from '../../editor/stageModel'
import { paintedWeights } from './brush'
import { toScreen, type Camera } from '../../stage/camera'
import type { Mark } from '../../stage/marks'
import type { Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

type Pen = CanvasRenderingContext2D

/** Steps of heat; triangles of one step are filled together. */
const STEPS = 16
const STRONGEST = 0.88

function drawWeights(editor: Editor, pen: Pen, camera: Camera, model: StageModel, chains: readonly string[], paper: string): void {
  const { selection } = useSession.of(editor).getState()
  const { puppet } = model.rig
  if (selection.kind === 'bone')
    for (const bone of selection.ids)
      for (const part of Object.keys(puppet.parts))
        if (blendedOf(puppet, part)?.bones.includes(bone)) drawHeat(editor, pen, camera, model, part, bone, chains, paper)
  if (selection.kind === 'part') drawPoints(pen, camera, model, selection.ids, chains, paper)
}

/** The mesh of a bind from paper to the colour of a bone, by that bone's weight. */
function drawHeat(
  editor: Editor,
  pen: Pen,
  camera: Camera,
  model: StageModel,
  part: string,
  bone: string,
  chains: readonly string[],
  paper: string,
): void {
  const { rig, frame } = model
  const bind = sure(blendedOf(rig.puppet, part))
  const at = rig.parts.index.get(part)
  if (at === undefined) return
  const { triangles } = bind.field
  const points = posedField(rig, frame, at, bind)
  const k = bind.bones.indexOf(bone)
  const weights = paintedWeights(editor, part)?.column(k) ?? weightsOfBone(bind.field, k)
  const levels = Array.from({ length: STEPS }, () => new Path2D())
  for (let t = 0; t < triangles.length; t += 3) {
    const mean = (weights[triangles[t]!]! + weights[triangles[t + 1]!]! + weights[triangles[t + 2]!]!) / 3
    const path = nth(levels, Math.min(STEPS - 1, Math.floor(mean * STEPS)))
    for (let k = 0; k < 3; k++) {
      const v = 2 * triangles[t + k]!
      const x = points[v]! * camera.zoom + camera.x
      const y = points[v + 1]! * camera.zoom + camera.y
      if (k === 0) path.moveTo(x, y)
      else path.lineTo(x, y)
    }
    path.closePath()
  }
  const colour = nth(chains, boneOf(rig.puppet, bone).colour - 1)
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
    const part = nth(rig.parts.ids, drawing.part)
    if (!ids.some((id) => isWithinPart(puppet, part, id))) return
    for (const { bone, ...at } of pointsByBone(rig, frame, d)) {
      const p = toScreen(camera, at)
      pen.beginPath()
      pen.arc(p.x, p.y, 3, 0, 2 * Math.PI)
      pen.fillStyle = bone < 0 ? halo : nth(chains, boneOf(puppet, nth(rig.bones.ids, bone)).colour - 1)
      pen.strokeStyle = bone < 0 ? nth(chains, 0) : halo
      pen.lineWidth = 1.25
      pen.fill()
      pen.stroke()
    }
  })
}

/** Whether weights are looked at, or painted. */
function areShown(editor: Editor): boolean {
  const { weights, bench, tools } = useSession.of(editor).getState()
  return (weights && bench !== 'send') || (bench === 'bones' && tools[bench] === 'weigh')
}

const weightsOf = (kind: 'part' | 'bone', layer: Mark['layer']): Mark => ({
  layer,
  draw(editor, pen, camera, model, { chains, panel }) {
    if (areShown(editor) && useSession.of(editor).getState().selection.kind === kind) drawWeights(editor, pen, camera, model, chains, panel)
  },
})

/** Heat of the selected bones, and points of the selected parts. */
export const boneWeights = weightsOf('bone', 'below')
export const partWeights = weightsOf('part', 'above')
