/** Deformers on the stage: the lattice of a cage, the curve of a bend, round-headed pins and bars of splints. */
import type { Deformer, Vec } from '@marionette/core/document/schema'
import { Spline } from '@marionette/core/geometry/spline'
import { cageLines, type HandlePlace } from '@marionette/core/rig/handles'
import { toScreen, type Camera } from './camera'
import { currentTheme } from './overlay'

type Pen = CanvasRenderingContext2D

export function drawDeformer(pen: Pen, camera: Camera, deformer: Deformer, places: readonly HandlePlace[], chosen: string | null): void {
  if (places.length === 0) return
  const { verdigris, halo, cord } = currentTheme()
  const spots = places.map((p) => toScreen(camera, p))
  const path = new Path2D()
  if (deformer.kind === 'cage')
    for (const [a, b] of cageLines(deformer)) {
      path.moveTo(spots[a]!.x, spots[a]!.y)
      path.lineTo(spots[b]!.x, spots[b]!.y)
    }
  if (deformer.kind === 'bend') traceCurve(path, spots)
  stroke(pen, path, halo, 3)
  stroke(pen, path, verdigris, deformer.kind === 'bend' ? 2 : 1.25)
  if (deformer.kind === 'pins')
    deformer.pins.forEach((pin, k) => pin.end && drawBar(pen, spots[k]!, pin.at, pin.end, camera.zoom, verdigris, halo))
  places.forEach(({ id }, k) => {
    const isChosen = id === chosen
    const isPin = deformer.kind === 'pins'
    pen.beginPath()
    if (isPin) pen.arc(spots[k]!.x, spots[k]!.y, isChosen ? 7 : 6, 0, 2 * Math.PI)
    else pen.rect(spots[k]!.x - 4, spots[k]!.y - 4, 8, 8)
    pen.lineWidth = 2
    pen.strokeStyle = isPin ? halo : isChosen ? cord : verdigris
    pen.fillStyle = isPin ? (isChosen ? cord : verdigris) : halo
    pen.fill()
    pen.stroke()
    if (!isPin) return
    // A glint makes it a round head.
    pen.beginPath()
    pen.arc(spots[k]!.x - 2, spots[k]!.y - 2, 1.6, 0, 2 * Math.PI)
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

function traceCurve(path: Path2D, spots: readonly Vec[]): void {
  const curve = new Spline(spots.length)
  curve.count = spots.length
  spots.forEach(({ x, y }, i) => curve.points.set([x, y], 2 * i))
  curve.space()
  curve.fit()
  path.moveTo(spots[0]!.x, spots[0]!.y)
  for (let k = 1; k <= 24 * (spots.length - 1); k++) {
    curve.at((curve.end * k) / (24 * (spots.length - 1)))
    path.lineTo(curve.out[0]!, curve.out[1]!)
  }
}

/** A splint lies about its middle as it was put in. */
function drawBar(pen: Pen, middle: Vec, at: Vec, end: Vec, zoom: number, colour: string, halo: string): void {
  const [dx, dy] = [((end.x - at.x) / 2) * zoom, ((end.y - at.y) / 2) * zoom]
  for (const [style, width] of [
    [halo, 8],
    [colour, 4.5],
  ] as const) {
    pen.beginPath()
    pen.lineCap = 'round'
    pen.moveTo(middle.x - dx, middle.y - dy)
    pen.lineTo(middle.x + dx, middle.y + dy)
    pen.strokeStyle = style
    pen.lineWidth = width
    pen.stroke()
  }
  pen.lineCap = 'butt'
}
