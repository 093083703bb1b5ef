/** What happens between two poses: how far things go, and whether they go there at all or only appear there. */
import type { PartId } from '../kernel/ids'
import { posedPoint } from '../puppet/probe'
import type { Frame } from '../puppet/frame'
import { isSeen } from './forms'

export interface Move {
  readonly part: PartId
  /** How far the point goes that goes farthest, px. */
  readonly far: number
}

/** The drawing whose points go farthest from one frame to another of the same rig; null where nothing is seen in both. */
export function farthestMove(before: Frame, after: Frame): Move | null {
  const { drawings, parts } = after.rig
  let best: Move | null = null
  for (let d = 0; d < after.rig.shown; d++) {
    if (!isSeen(before, d) || !isSeen(after, d)) continue
    const far = moveOf(before, after, d)
    if (!best || far > best.far) best = { part: parts.ids[drawings[d]!.part]!, far }
  }
  return best
}

function moveOf(before: Frame, after: Frame, d: number): number {
  const count = after.rig.drawings[d]!.geometry.points.length / 2
  let most = 0
  for (let i = 0; i < count; i++) {
    const [a, b] = [posedPoint(before, d, i), posedPoint(after, d, i)]
    most = Math.max(most, Math.hypot(a.x - b.x, a.y - b.y))
  }
  return most
}

/** Rounds of halving: what has not become less in a 64th of the way is no way, but a jump. */
const HALVINGS = 6
/** Share of a move that is left of a jump after all halvings; of a steady way a 64th is. */
const LEFT_OVER = 0.4

/**
 * Whether a move between two poses is a jump: halved again and again, always on the side where more happens, it does not become less.
 *
 * @param evaluateAt a frame at a share of the way, good until the one after the next is asked for
 * @param far the whole move, px
 * @returns the jump with the share of the way at which it is; null where everything goes there steadily
 */
export function jumpBetween(evaluateAt: (share: number, into: 0 | 1 | 2) => Frame, far: number): (Move & { share: number }) | null {
  let [from, to] = [0, 1]
  let found: Move | null = null
  for (let round = 0; round < HALVINGS; round++) {
    const middle = (from + to) / 2
    const [a, m, b] = [evaluateAt(from, 0), evaluateAt(middle, 1), evaluateAt(to, 2)]
    const [first, second] = [farthestMove(a, m), farthestMove(m, b)]
    const isFirst = (first?.far ?? 0) > (second?.far ?? 0)
    found = isFirst ? first : second
    if (isFirst) to = middle
    else from = middle
    if (!found || found.far < LEFT_OVER * far) return null
  }
  return found && { ...found, share: (from + to) / 2 }
}
