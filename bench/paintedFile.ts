/** OpenRaster files with layers like painted ones: soft blobs with grain, a quarter of the canvas each. A dozen are painted, and repeated. */
import { encode } from 'fast-png'
import { writeOpenRaster, type WrittenLayer } from '@marionette/formats/openraster/write'

const DISTINCT = 12

export function paintedFile(layers: number, side: number): Uint8Array {
  const empty = { width: 1, height: 1, data: new Uint8Array(4) }
  const painted = Array.from({ length: Math.min(layers, DISTINCT) }, (_, i) => blob(side, i))
  const list = Array.from({ length: layers }, (_, i): WrittenLayer => ({
    ...{ name: `Layer ${i + 1}`, visible: true, opacity: 1, blend: 'normal', x: 0, y: 0 },
    // Each layer has bytes of its own in the file.
    png: painted[i % DISTINCT]!.slice(),
  }))
  return writeOpenRaster({ width: side, height: side, layers: list, merged: empty, thumbnail: empty })
}

/** A grainy disc somewhere on a transparent layer of full size. */
function blob(side: number, seed: number): Uint8Array {
  const data = new Uint8Array(4 * side * side)
  let state = seed + 1
  const [cx, cy, r] = [side * (0.3 + 0.4 * ((seed * 0.37) % 1)), side * (0.3 + 0.4 * ((seed * 0.73) % 1)), side * 0.28]
  for (let y = Math.floor(cy - r); y < cy + r; y++)
    for (let x = Math.floor(cx - r); x < cx + r; x++) {
      const d = Math.hypot(x - cx, y - cy)
      if (d >= r) continue
      state = (state * 48271) % 2147483647
      const grain = state % 24
      data.set([120 + grain, 90 + ((x + y) % 64), 160 - grain, Math.min(255, (r - d) * 40)], 4 * (y * side + x))
    }
  return encode({ width: side, height: side, data, channels: 4, depth: 8 }, { zlib: { level: 3 } })
}
