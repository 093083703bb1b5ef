/**
 * What painting costs where things are used over and over: masks are drawn for each part that they mask, and steps of an effect
 * for each step that uses them, so that a short document can ask for more than any machine can do.
 */
import { inputsOf } from './effects'
import type { PartId } from '../kernel/ids'
import type { Effect } from './records'
import type { Puppet } from '../puppet/schema'
import type { Problem } from '../kernel/problem'
import { nth, recordOf } from '../kernel/sure'

/** Steps of one effect that may have to be worked out, each as often as it is used. */
export const MOST_STEPS = 200
/** Parts that may have to be drawn for the masks of a puppet, each as often as it is needed. */
export const MOST_MASKING = 20_000

/** How often steps are worked out for the last one. Assumes that steps use earlier ones only. */
export function costOfEffect({ steps }: Effect): number {
  const costs: number[] = []
  for (const step of steps) costs.push(inputsOf(step).reduce<number>((sum, i) => sum + (typeof i === 'number' ? nth(costs, i) : 0), 1))
  return Math.max(...costs)
}

/** How many parts are drawn for masks alone when the puppet is painted. Assumes that masks are no circle and trees are trees. */
export function costOfMasks({ parts, root }: Pick<Puppet, 'parts' | 'root'>): number {
  const drawn = new Map<PartId, number>()
  /** What drawing a part costs with all in it and all their masks, counting no further than it has to. */
  const costOf = (id: PartId): number => {
    const known = drawn.get(id)
    if (known !== undefined) return known
    const part = recordOf(parts, id)
    let cost = 1
    for (const child of part.children) cost += costOf(child)
    for (const { shape } of part.masks) cost += costOf(shape)
    const most = Math.min(cost, 1e12)
    drawn.set(id, most)
    return most
  }
  return costOf(root) - Object.keys(parts).length
}

/** How many drawings are drawn when one is, those that it repeats included. Assumes that none repeats itself. */
function costOfPatterns(puppet: Puppet, id: string, known: Map<string, number>): number {
  let cost = known.get(id)
  if (cost !== undefined) return cost
  cost = 1
  for (const { ink, line } of puppet.drawings[id]?.shapes ?? [])
    for (const paint of [ink?.paint, line?.paint])
      if (paint?.kind === 'pattern') cost = Math.min(1e12, cost + costOfPatterns(puppet, paint.drawing, known))
  known.set(id, cost)
  return cost
}

/** Everything that would cost more than is ever needed. */
export function costProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const { id, effect } of Object.values(puppet.parts))
    if (effect && costOfEffect(effect) > MOST_STEPS)
      out.push({ path: `parts.${id}.effect`, message: 'uses its own steps so often that it cannot be painted' })
  if (costOfMasks(puppet) > MOST_MASKING) out.push({ path: 'parts', message: 'mask each other so often that they cannot be painted' })
  const known = new Map<string, number>()
  for (const id of Object.keys(puppet.drawings))
    if (costOfPatterns(puppet, id, known) > MOST_STEPS)
      out.push({ path: `drawings.${id}`, message: 'repeats drawings in drawings so often that it cannot be painted' })
  return out
}
