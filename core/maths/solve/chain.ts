/** Chains of any length that reach for a target within their limits. */
import type { Vec } from '../../kernel/numbers'
import { ChainReach } from './chainReach'
import type { AngleRange } from './reach'

/** A chain of bones as arrays, and what its joints allow. */
export interface Chain {
  /** Start of the first bone in the pose. */
  readonly root: Vec
  /** Turn of everything above the first bone, degrees. */
  readonly base: number
  /** Rest vectors from each bone's start to the next one's, the last to the grabbed spot. */
  readonly links: readonly Vec[]
  /** Present angles, degrees from rest: where the search starts. */
  readonly angles: readonly number[]
  readonly limits: readonly AngleRange[]
}

/** A limb with the bones of a chain. */
export function limbOf(chain: Chain): ChainReach {
  const limb = new ChainReach(chain.links.length)
  limb.count = chain.links.length
  limb.rootX = chain.root.x
  limb.rootY = chain.root.y
  limb.base = chain.base
  chain.links.forEach(({ x, y }, i) => limb.links.set([x, y], 2 * i))
  limb.angles.set(chain.angles)
  limb.min.set(chain.limits.map((l) => l.min))
  limb.max.set(chain.limits.map((l) => l.max))
  return limb
}

/** Joints of a chain at given angles, the root first and the grabbed spot last. */
export function jointsOf(chain: Chain, angles: readonly number[]): Vec[] {
  const limb = limbOf(chain)
  limb.place(Float64Array.from(angles))
  return Array.from({ length: limb.count + 1 }, (_, i) => ({ x: limb.joints[2 * i]!, y: limb.joints[2 * i + 1]! }))
}

/**
 * Angles that bring the grabbed spot to a target, or as near as lengths and limits allow. The search starts from the
 * present pose, which keeps the bend; only where that leads nowhere, from chains that are bent one way and the other.
 */
export function reachWithChain(chain: Chain, target: Vec): number[] {
  const limb = limbOf(chain)
  limb.solve(target.x, target.y, 0)
  return [...limb.angles]
}
