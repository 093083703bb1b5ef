/** Which part masks which, and that none masks itself. */
import type { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { partPath, partsBelow } from '../parts/tree'

/** Masks of masks that are followed. */
const DEEPEST = 100

/**
 * The name of a part that takes part in masking itself, or whose masks are masked without end; null where there is none.
 *
 * To draw a masked part its masking part is drawn, with everything in it and the masks found there. A part that is
 * reached again on this way could never be drawn.
 */
export function maskCycle(puppet: Puppet): string | null {
  const masked = Object.values(puppet.parts).filter((p) => p.masks.length > 0)
  if (masked.length === 0) return null
  const state = new Map<PartId, 'open' | 'done'>()
  const visit = (part: Part, depth: number): string | null => {
    if (state.get(part.id) === 'open' || depth > DEEPEST) return part.name
    if (state.get(part.id) === 'done') return null
    state.set(part.id, 'open')
    for (const { shape } of part.masks) {
      if (!puppet.parts[shape]) continue
      if (partPath(puppet, part.id).some((p) => p.id === shape)) return part.name
      for (const inner of partsBelow(puppet, shape)) {
        const found = inner.masks.length > 0 ? visit(inner, depth + 1) : null
        if (found !== null) return found
      }
    }
    state.set(part.id, 'done')
    return null
  }
  for (const part of masked) {
    const found = visit(part, 0)
    if (found !== null) return found
  }
  return null
}
