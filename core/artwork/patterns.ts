/** Drawings that are painted with drawings, and that none is painted with itself. */
import type { DrawingId } from '../kernel/ids'
import type { Drawing } from './records'
import type { Puppet } from '../puppet/schema'

const patternsOf = ({ shapes }: Drawing): DrawingId[] =>
  shapes.flatMap(({ ink, line }) => [ink?.paint, line?.paint].flatMap((paint) => (paint?.kind === 'pattern' ? [paint.drawing] : [])))

/** Patterns in patterns that are followed. */
const DEEPEST = 100

/** Drawings at which a circle of patterns closes, or at which they go deeper than anyone needs. Each is gone through once. */
export function patternCycle({ drawings }: Pick<Puppet, 'drawings'>): DrawingId[] {
  const state = new Map<DrawingId, 'open' | 'done'>()
  const out: DrawingId[] = []
  const visit = (id: DrawingId, depth: number): void => {
    const drawing = drawings[id]
    if (!drawing || state.get(id) === 'done') return
    if (state.get(id) === 'open' || depth > DEEPEST) return void out.push(id)
    state.set(id, 'open')
    for (const inner of patternsOf(drawing)) visit(inner, depth + 1)
    state.set(id, 'done')
  }
  for (const id of Object.keys(drawings)) visit(id, 0)
  return out
}
