/** Parts on the other side of a puppet. */
import type { Affine } from '../kernel/numbers'
import type { Puppet } from '../puppet/schema'
import { restMatrix } from './tree'
import { invert, multiply } from '../maths/geometry/affine'
import { counterpart } from '../kernel/sides'

/** The part on the other side: its mirrored twin, what it is the twin of, or the one of the other name. */
export function otherPart(puppet: Puppet, id: string): string {
  const { twin } = puppet.parts[id] ?? {}
  if (twin?.mirrored && puppet.parts[twin.of]) return twin.of
  const made = Object.values(puppet.parts).find((p) => p.twin?.of === id && p.twin.mirrored)
  return made?.id ?? counterpart(Object.values(puppet.parts), id)
}

/** From a part's own space to that of the part on the other side, across the middle of the canvas; null where that is flattened. */
export function acrossTo(puppet: Puppet, part: string, other: string): Affine | null {
  const back = invert(restMatrix(puppet, other))
  const flip: Affine = [-1, 0, 0, 1, puppet.canvas.width, 0]
  return back && multiply(back, multiply(flip, restMatrix(puppet, part)))
}

/** A twin lies in a mirrored space already: there the same move is the mirror image. */
export function partSign(puppet: Puppet, part: string, field: string): 1 | -1 {
  const map = acrossTo(puppet, part, otherPart(puppet, part))
  if (!map) return 1
  const by = field === 'x' ? map[0] : field === 'y' ? map[3] : field === 'angle' ? map[0] * map[3] - map[1] * map[2] : 1
  return by < 0 ? -1 : 1
}
