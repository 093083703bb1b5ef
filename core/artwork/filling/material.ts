/**
 * What a hole is made of: pixels that hang together with its border, lie near it, and have a colour that occurs along
 * it. A sleeve is filled from the sleeve, not from the hand that comes out of it.
 */
import { HOLE, KNOWN, type Level } from './level'

/** Bits that are left of each channel where colours are compared. */
const BITS = 4
const STEPS = 1 << BITS

const stepOf = (channel: number): number => channel >> (8 - BITS)

/** Colours that occur, coarsely, with those that are a step away from them. */
class Colours {
  private readonly found = new Uint8Array(STEPS ** 3)

  add(r: number, g: number, b: number): void {
    const [x, y, z] = [stepOf(r), stepOf(g), stepOf(b)]
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++) {
          const [px, py, pz] = [x + dx, y + dy, z + dz]
          if (Math.min(px, py, pz) >= 0 && Math.max(px, py, pz) < STEPS) this.found[(px * STEPS + py) * STEPS + pz] = 1
        }
  }

  has(r: number, g: number, b: number): boolean {
    return this.found[(stepOf(r) * STEPS + stepOf(g)) * STEPS + stepOf(b)] === 1
  }
}

/**
 * Marks what a hole may be filled from.
 *
 * @param passable [n] 1 where the picture has anything, also what is too thin to be copied
 * @param ring how far along the hole its colours are taken from, px
 * @param search how far away it may be, px, measured within the picture
 * @returns [n] 1 for what may be copied; empty only where nothing is known at all
 */
export function materialOf(level: Omit<Level, 'material'>, passable: Uint8Array, ring: number, search: number): Uint8Array {
  const { state, colours } = level
  const near = stepsFromHole(level, passable, search)
  const along = new Colours()
  for (let i = 0; i < state.length; i++)
    if (state[i] === KNOWN && near[i]! > 0 && near[i]! <= ring) along.add(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!)
  const out = new Uint8Array(state.length)
  let count = 0
  for (let i = 0; i < state.length; i++) {
    if (state[i] !== KNOWN || near[i] === 0 || !along.has(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!)) continue
    out[i] = 1
    count++
  }
  // What hangs together with nothing is filled from whatever there is.
  return count > 0 ? out : Uint8Array.from(state, (s) => (s === KNOWN ? 1 : 0))
}

/** Steps from the hole to each pixel, over pixels of the picture alone; 0 for what is farther away than `most`. */
function stepsFromHole({ width, height, state }: Omit<Level, 'material'>, passable: Uint8Array, most: number): Uint16Array {
  const out = new Uint16Array(state.length)
  let front: number[] = []
  for (let i = 0; i < state.length; i++) if (state[i] === HOLE) front.push(i)
  for (let step = 1; step <= most && front.length > 0; step++) {
    const next: number[] = []
    for (const i of front) {
      const [x, y] = [i % width, Math.floor(i / width)]
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy]
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue
          const n = ny * width + nx
          if (out[n] !== 0 || state[n] === HOLE || !passable[n]) continue
          out[n] = step
          next.push(n)
        }
    }
    front = next
  }
  return out
}
