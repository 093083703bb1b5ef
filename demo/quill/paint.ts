/** `npm run paint`: paints Quill's layers and writes them as OpenRaster, what is looked at closely once more in finer pixels. */
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import { writeOpenRaster, type WrittenGroup, type WrittenLayer } from '@marionette/formats/openraster/write'
import { cropped, encodePng, opaqueBox, type Pixels } from '@marionette/formats/pixels'
import { loadCanvasKit } from '@marionette/render/node'
import { pixelsOf } from '@marionette/render/pixels'
import { Brush } from './brush'
import { CLOSE_UP, CLOSE_UP_DENSITY, HEIGHT, isGroup, LAYERS, WIDTH, type PaintedGroup, type PaintedLayer } from './layers'
import { sure } from '@marionette/core/kernel/sure'

/** Pixels of a drawing of a size. */
function drawn(CK: CanvasKit, width: number, height: number, draw: (canvas: Canvas) => void): Pixels {
  const surface = sure(CK.MakeSurface(width, height))
  surface.getCanvas().clear(CK.TRANSPARENT)
  draw(surface.getCanvas())
  const pixels = pixelsOf(CK, surface)
  surface.delete()
  return pixels
}

const CK = await loadCanvasKit()
type Painted = PaintedLayer | PaintedGroup
const leaves = (layer: Painted): PaintedLayer[] => (isGroup(layer) ? layer.children.flatMap(leaves) : [layer])
/** What is seen of a layer: of alternates the topmost. */
const seen = (layer: Painted): PaintedLayer[] =>
  isGroup(layer) ? (layer.isSwap ? layer.children.slice(-1) : layer.children).flatMap(seen) : [layer]

const seeds = new Map(LAYERS.flatMap(leaves).map((l, i) => [l, 1000 + i]))
const paint = (canvas: Canvas, layer: PaintedLayer): void => layer.paint(new Brush(CK, canvas, sure(seeds.get(layer))))
const paintAll =
  (layers: readonly Painted[]) =>
  (canvas: Canvas): void =>
    layers.flatMap(seen).forEach((l) => paint(canvas, l))

/** A layer, or what is in a group, with so many pixels to one of the canvas. */
function written(layer: Painted, visible: boolean, density: number): WrittenLayer | WrittenGroup {
  const common = { name: layer.name, visible, opacity: 1, blend: 'normal' as const }
  if (isGroup(layer)) {
    const last = layer.children.length - 1
    return { ...common, children: layer.children.map((c, k) => written(c, !layer.isSwap || k === last, density)) }
  }
  const whole = scaled(density, (canvas) => paint(canvas, layer))
  const box = sure(opaqueBox(whole))
  return { ...common, x: box.x, y: box.y, png: encodePng(cropped(whole, box)) }
}

/** What is painted on the whole canvas, with so many pixels to one of it. */
const scaled = (density: number, draw: (canvas: Canvas) => void): Pixels =>
  drawn(CK, Math.round(WIDTH * density), Math.round(HEIGHT * density), (canvas) => {
    canvas.scale(density, density)
    draw(canvas)
  })

function write(name: string, layers: readonly Painted[], density: number): void {
  const bytes = writeOpenRaster({
    width: WIDTH * density,
    height: HEIGHT * density,
    layers: layers.map((l) => written(l, true, density)),
    merged: scaled(density, paintAll(layers)),
    thumbnail: scaled(256 / HEIGHT, paintAll(layers)),
  })
  writeFileSync(fileURLToPath(new URL(name, import.meta.url)), bytes)
  process.stdout.write(`${name}: ${layers.length} layers, ${Math.round(bytes.length / 1024)} KB\n`)
}

write('./quill.ora', LAYERS, 1)
write(
  './quill-head.ora',
  LAYERS.filter(({ name }) => CLOSE_UP.has(name)),
  CLOSE_UP_DENSITY,
)
