/** Where shadows fall, and how they begin. */
import type { Affine } from '../kernel/numbers'
import { toRadians } from '../maths/geometry/affine'
import type { Shadow } from './records'

/** The map that takes what is painted to its shadow: canvas px to canvas px. A spot on the ground line stays where it is but for the shift. */
export function shadowMap({ on, ground, x, y, length, skew }: Shadow): Affine {
  if (on === 'behind') return [1, 0, 0, 1, x, y]
  // What stands high above the ground falls far along it: y' = ground - length (ground - y), x' leans by what is above the ground.
  const lean = Math.tan(toRadians(skew)) * length
  return [1, 0, -lean, length, x + lean * ground, y + ground * (1 - length)]
}

/** A shadow as it is put on in one press: for a figure of a height in px whose lowest spot is at `feet`. */
export function newShadow(on: Shadow['on'], feet: number, height: number): Shadow {
  const rounded = (v: number): number => Math.round(v)
  const shared = { on, ground: rounded(feet), colour: '#2b2018' }
  return on === 'ground'
    ? { ...shared, x: 0, y: 0, length: 0.28, skew: 40, softness: rounded(height * 0.012), opacity: 0.28 }
    : {
        ...shared,
        x: rounded(height * 0.04),
        y: rounded(height * 0.03),
        length: 1,
        skew: 0,
        softness: rounded(height * 0.008),
        opacity: 0.22,
      }
}
