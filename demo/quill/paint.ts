/** `npm run paint`: paints Quill's layers and writes them as OpenRaster. */
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import { writeOpenRaster } from '@marionette/formats/openraster/write'
import { cropped, encodePng, opaqueBox, type Pixels } from '@marionette/formats/pixels'
import { loadCanvasKit } from '@marionette/render/node'
import { pixelsOf } from '@marionette/render/pixels'
import { Brush } from './brush'
import { HEIGHT, LAYERS, WIDTH } from './layers'

/** Pixels of a drawing of a size. */
function drawn(CK: CanvasKit, width: number, height: number, draw: (canvas: Canvas) => void): Pixels {
  const surface = CK.MakeSurface(width, height)!
  surface.getCanvas().clear(CK.TRANSPARENT)
  draw(surface.getCanvas())
  const pixels = pixelsOf(CK, surface)
  surface.delete()
  return pixels
}

const CK = await loadCanvasKit()
const paintAll = (canvas: Canvas): void => LAYERS.forEach(({ paint }, i) => paint(new Brush(CK, canvas, 1000 + i)))
const layers = LAYERS.map(({ name, paint }, i) => {
  const whole = drawn(CK, WIDTH, HEIGHT, (canvas) => paint(new Brush(CK, canvas, 1000 + i)))
  const box = opaqueBox(whole)!
  return { name, visible: true, opacity: 1, blend: 'normal' as const, x: box.x, y: box.y, png: encodePng(cropped(whole, box)) }
})
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
