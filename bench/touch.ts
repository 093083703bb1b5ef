/** touch-move: one move of a dragged point on a bent drawing, from the pointer to the posed frame. */
import { changePaths, movePoints } from '@marionette/core/artwork/touch/points'
import { pointsOf, poseDrawing, writeBack } from '@marionette/core/touch/posedPaths'
import { applyEdits, run } from '@marionette/core/puppet/edit'
import { changeArt } from '@marionette/core/joints/commands'
import { setPose } from '@marionette/core/poses/commands'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { posedMap } from '@marionette/core/puppet/posedMap'
import { measure, type Figure } from './measure'
import { marlo } from './puppet'
import { edit } from '@marionette/core/kernel/command'
import { drawingBy } from '@marionette/core/artwork/art'

export function touchFigure(): Figure {
  const rested = marlo()
  const scarf = Object.values(rested.parts).find((p) => p.name === 'Scarf tail')!
  const tip = Object.values(rested.bones).find((b) => b.name === 'Scarf tip')!
  const puppet = run(rested, setPose, { values: { [`bone/${tip.id}/angle`]: 40 } })
  const drawing = drawingBy(puppet, scarf.art[puppet.view]!)!
  const map = posedMap(posePuppet(puppet), scarf.id)
  const posed = poseDrawing(drawing, map)
  const points = pointsOf(posed)
  const [[id, at]] = [...points] as unknown as [[number, { x: number; y: number }]]
  return measure('touch-move', points.size, 'n is points of the drawing: write back, edit, compile what changed, evaluate', (round) => {
    const moved = new Map([[id, { x: at.x + (round % 7), y: at.y + (round % 5) }]])
    const written = writeBack(
      drawing,
      posed,
      changePaths(posed, (p) => movePoints(p, moved)),
      map,
    )
    posePuppet(applyEdits(puppet, [edit(changeArt, { drawings: [written], pictures: [] })]).puppet)
  })
}
