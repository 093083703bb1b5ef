/** A hole as what hangs together. */
import { emptyBounds, include, type Bounds } from '../../maths/geometry/bounds'

export interface Hole {
  readonly box: Bounds
  /** Its pixels, by index. */
  readonly pixels: readonly number[]
}

/** Groups of set pixels that touch each other, corners included. */
export function holesOf(mask: Uint8Array, width: number, height: number): Hole[] {
  const open = mask.slice()
  const out: Hole[] = []
  for (let start = 0; start < open.length; start++) {
    if (!open[start]) continue
    const pixels = [start]
    const box = emptyBounds()
    open[start] = 0
    for (let at = 0; at < pixels.length; at++) {
      const i = pixels[at]!
      const [x, y] = [i % width, Math.floor(i / width)]
      include(box, x, y)
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const n = ny * width + nx
          if (!open[n]) continue
          open[n] = 0
          pixels.push(n)
        }
    }
    out.push({ box, pixels })
  }
  return out
}
