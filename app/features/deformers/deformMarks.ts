/** Deformers on the stage: the form of each kind, and its handles. */
import type { Deformer } from '@marionette/core/puppet/schema'
import type { HandlePlace } from '@marionette/core/posing/handles'
import { toScreen, type Camera } from '../../stage/camera'
import { currentTheme } from '../../stage/theme'
import { viewOf } from './table'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

type Pen = CanvasRenderingContext2D

export function drawDeformer(
  editor: Editor,
  pen: Pen,
  camera: Camera,
  deformer: Deformer,
  places: readonly HandlePlace[],
  chosen: string | null,
): void {
  if (places.length === 0) return
  const { verdigris, halo, cord } = currentTheme(editor)
  const spots = places.map((p) => toScreen(camera, p))
  const path = new Path2D()
  const view = viewOf(deformer)
  const width = view.trace?.(path, deformer, spots) ?? 0
  if (width > 0) {
    stroke(pen, path, halo, 3)
    stroke(pen, path, verdigris, width)
  }
  view.draw?.(editor, pen, camera, deformer, spots)
  places.forEach(({ id }, k) => {
    const isChosen = id === chosen
    const isPin = view.handles === 'round'
    pen.beginPath()
    if (isPin) pen.arc(nth(spots, k).x, nth(spots, k).y, isChosen ? 7 : 6, 0, 2 * Math.PI)
    else pen.rect(nth(spots, k).x - 4, nth(spots, k).y - 4, 8, 8)
    pen.lineWidth = 2
    pen.strokeStyle = isPin ? halo : isChosen ? cord : verdigris
    pen.fillStyle = isPin ? (isChosen ? cord : verdigris) : halo
    pen.fill()
    pen.stroke()
    if (!isPin) return
    // A glint makes it a round head.
    pen.beginPath()
    pen.arc(nth(spots, k).x - 2, nth(spots, k).y - 2, 1.6, 0, 2 * Math.PI)
    pen.fillStyle = halo
    pen.fill()
  })
}

function stroke(pen: Pen, path: Path2D, colour: string, width: number): void {
  pen.strokeStyle = colour
  pen.lineWidth = width
  pen.lineJoin = 'round'
  pen.stroke(path)
}
