/** `npm run paint`: paints Quill's layers and writes them as OpenRaster. */
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import { writeOpenRaster, type WrittenGroup, type WrittenLayer } from '@marionette/formats/openraster/write'
import { cropped, encodePng, opaqueBox, type Pixels } from '@marionette/formats/pixels'
import { loadCanvasKit } from '@marionette/render/node'
import { pixelsOf } from '@marionette/render/pixels'
import { Brush } from './brush'
import { HEIGHT, isGroup, LAYERS, WIDTH, type PaintedGroup, type PaintedLayer } from './layers'
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
const paintAll = (canvas: Canvas): void => LAYERS.flatMap(seen).forEach((l) => paint(canvas, l))

function written(layer: Painted, visible: boolean): WrittenLayer | WrittenGroup {
  const common = { name: layer.name, visible, opacity: 1, blend: 'normal' as const }
  if (isGroup(layer)) {
    const last = layer.children.length - 1
    return { ...common, children: layer.children.map((c, k) => written(c, !layer.isSwap || k === last)) }
  }
  const whole = drawn(CK, WIDTH, HEIGHT, (canvas) => paint(canvas, layer))
  const box = sure(opaqueBox(whole))
  return { ...common, x: box.x, y: box.y, png: encodePng(cropped(whole, box)) }
}

const layers = LAYERS.map((l) => written(l, true))
const scale = 256 / HEIGHT
const bytes = writeOpenRaster({
  width: WIDTH,
  height: HEIGHT,
  layers,
  merged: drawn(CK, WIDTH, HEIGHT, paintAll),
  thumbnail: drawn(CK, Math.round(WIDTH * scale), 256, (canvas) => {
    canvas.scale(scale, scale)
    paintAll(canvas)
  }),
})
writeFileSync(fileURLToPath(new URL('./quill.ora', import.meta.url)), bytes)
process.stdout.write(`quill.ora: ${layers.length} layers, ${Math.round(bytes.length / 1024)} KB\n`)
