/** Limbs as people draw them: round at both ends. */
import type { Drawing, Line, Path } from '../artwork/records'
import type { Vec } from '../kernel/numbers'

/** A dark outline of 4 px. */
export const LINE: Line = {
  ...{ paint: { kind: 'flat', colour: '#221a18' }, alpha: 1, width: 4, cap: 'round', join: 'round', miter: 4, dash: null, pen: null },
}

/** A limb from one spot to another with round ends, outlined all round, as most people draw it. */
export function capsule(id: string, from: Vec, to: Vec, radius: number, line: Line | null = LINE): Drawing {
  const length = Math.hypot(to.x - from.x, to.y - from.y)
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length]
  const k = 0.5519150244935106
  // Along and across the limb, in radii from one of its ends.
  const at = (end: Vec, along: number, across: number): number[] => [
    end.x + radius * (along * ux - across * uy),
    end.y + radius * (along * uy + across * ux),
  ]
  const by = (along: number, across: number): number[] => at({ x: 0, y: 0 }, along, across)
  const path: Path = {
    closed: true,
    ids: [0, 1, 2, 3, 4, 5],
    anchors: [at(from, 0, -1), at(to, 0, -1), at(to, 1, 0), at(to, 0, 1), at(from, 0, 1), at(from, -1, 0)].flat(),
    handles: [
      [...by(-k, 0), 0, 0],
      [0, 0, ...by(k, 0)],
      [...by(0, -k), ...by(0, k)],
      [...by(k, 0), 0, 0],
      [0, 0, ...by(-k, 0)],
      [...by(0, k), ...by(0, -k)],
    ].flat(),
  }
  const ink = { paint: { kind: 'flat' as const, colour: '#cc8844' }, alpha: 1, rule: 'nonzero' as const }
  return { id, shapes: [{ id: 0, alpha: 1, lineFirst: false, ink, line, paths: [path] }] }
}
