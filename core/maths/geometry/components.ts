/** What hangs together in a grid of cells. */
import { emptyBounds, include, type Bounds } from './bounds'

/** Cells that hang together, with the box about their indices. */
export interface Blob extends Bounds {
  /** Cells by index. */
  pixels: number[]
}

/**
 * Groups of set cells that touch each other, corners included, in the order of their first cells.
 *
 * @param mask [width * height] 1 where a cell is set
 */
export function componentsOf(mask: Uint8Array, width: number, height: number): Blob[] {
  const open = mask.slice()
  const out: Blob[] = []
  for (let start = 0; start < open.length; start++) {
    if (!open[start]) continue
    const blob: Blob = { ...emptyBounds(), pixels: [start] }
    open[start] = 0
    for (let at = 0; at < blob.pixels.length; at++) {
      const i = blob.pixels[at]!
      const x = i % width
      const y = Math.floor(i / width)
      include(blob, x, y)
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const n = ny * width + nx
          if (!open[n]) continue
          open[n] = 0
          blob.pixels.push(n)
        }
    }
    out.push(blob)
  }
  return out
}
