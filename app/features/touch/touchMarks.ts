/** How points, handles and outlines of a drawing in work are drawn on the stage. */
import type { Drawing, Path, Vec } from '@marionette/core/puppet/schema'
import { flatten } from '@marionette/core/maths/geometry/path'
import { toScreen, type Camera } from '../../stage/camera'
import { currentTheme } from '../../stage/theme'
import type { Editor } from '../../editor/editor'

type Pen = CanvasRenderingContext2D

/** An outline, hidden stretches and all. */
export function strokePath(editor: Editor, pen: Pen, camera: Camera, path: Path, colour: string, width = 1.25): void {
  const points = flatten(path, 0.25 / camera.zoom)
  const way = new Path2D()
  for (let i = 0; i < points.length; i += 2) {
    const p = toScreen(camera, { x: points[i]!, y: points[i + 1]! })
    if (i === 0) way.moveTo(p.x, p.y)
    else way.lineTo(p.x, p.y)
  }
  if (path.closed) way.closePath()
  const { halo } = currentTheme(editor)
  pen.strokeStyle = halo
  pen.globalAlpha = 0.7
  pen.lineWidth = width + 1.75
  pen.stroke(way)
  pen.globalAlpha = 1
  pen.strokeStyle = colour
  pen.lineWidth = width
  pen.stroke(way)
}

/** A point: round where the outline runs smoothly, a lozenge at a corner. */
function drawPoint(editor: Editor, pen: Pen, at: Vec, isSmooth: boolean, isChosen: boolean): void {
  const { cord, halo, ink, panel } = currentTheme(editor)
  const r = isChosen ? 4.5 : 3.5
  pen.beginPath()
  if (isSmooth) pen.arc(at.x, at.y, r, 0, 2 * Math.PI)
  else {
    pen.moveTo(at.x, at.y - r - 1)
    pen.lineTo(at.x + r + 1, at.y)
    pen.lineTo(at.x, at.y + r + 1)
    pen.lineTo(at.x - r - 1, at.y)
    pen.closePath()
  }
  pen.lineWidth = 3
  pen.strokeStyle = halo
  pen.stroke()
  pen.fillStyle = isChosen ? cord : panel
  pen.fill()
  pen.lineWidth = 1.25
  pen.strokeStyle = isChosen ? cord : ink
  pen.stroke()
}

export function drawHandle(editor: Editor, pen: Pen, from: Vec, to: Vec): void {
  const { cord, halo } = currentTheme(editor)
  for (const [colour, width] of [
    [halo, 3],
    [cord, 1],
  ] as const) {
    pen.beginPath()
    pen.moveTo(from.x, from.y)
    pen.lineTo(to.x, to.y)
    pen.strokeStyle = colour
    pen.lineWidth = width
    pen.stroke()
  }
  pen.beginPath()
  pen.arc(to.x, to.y, 3, 0, 2 * Math.PI)
  pen.fillStyle = halo
  pen.fill()
  pen.strokeStyle = cord
  pen.lineWidth = 1.5
  pen.stroke()
}

/** A drawing in work: its outlines and points, handles at the chosen ones. */
export function drawPoints(editor: Editor, pen: Pen, camera: Camera, drawing: Drawing, chosen: ReadonlySet<number>): void {
  const { verdigris } = currentTheme(editor)
  const paths = drawing.shapes.flatMap((s) => s.paths)
  for (const path of paths) strokePath(editor, pen, camera, path, verdigris)
  for (const { ids, anchors, handles } of paths)
    ids.forEach((id, i) => {
      const at = toScreen(camera, { x: anchors[2 * i]!, y: anchors[2 * i + 1]! })
      const [inX, inY, outX, outY] = handles.slice(4 * i, 4 * i + 4) as [number, number, number, number]
      if (chosen.has(id))
        for (const [x, y] of [
          [inX, inY],
          [outX, outY],
        ] as const)
          if (x !== 0 || y !== 0) drawHandle(editor, pen, at, toScreen(camera, { x: anchors[2 * i]! + x, y: anchors[2 * i + 1]! + y }))
      drawPoint(editor, pen, at, inX !== 0 || inY !== 0 || outX !== 0 || outY !== 0, chosen.has(id))
    })
}

/** What a spot was caught by. */
export function drawCatch(editor: Editor, pen: Pen, camera: Camera, at: Vec): void {
  const p = toScreen(camera, at)
  pen.beginPath()
  pen.arc(p.x, p.y, 9, 0, 2 * Math.PI)
  pen.strokeStyle = currentTheme(editor).brass
  pen.lineWidth = 2
  pen.stroke()
}
