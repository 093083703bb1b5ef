/** In which order parts that hang on parts are placed. */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'

/** The part that a part hangs on, by its own bind or the nearest one above; null where that is none. */
function carrierOf({ parts }: Pick<Puppet, 'parts'>, part: PartId): PartId | null {
  for (let id: PartId | null = part; id !== null; id = parts[id]!.parent) {
    const { bind } = parts[id]!
    if (bind) return bind.kind === 'attached' ? bind.to : null
  }
  return null
}

/** A part that hangs on itself, over however many others; null where there is none. */
export function attachCycle(puppet: Pick<Puppet, 'parts'>): PartId | null {
  const free = new Set<PartId>()
  for (const start of Object.keys(puppet.parts)) {
    const way = new Set<PartId>()
    for (let id: PartId | null = start; id !== null && !free.has(id); id = carrierOf(puppet, id)) {
      if (way.has(id)) return id
      way.add(id)
    }
    for (const id of way) free.add(id)
  }
  return null
}

/** Parts in an order in which those that others hang on come first. `parts` hold parents before children. */
export function attachOrder(puppet: Pick<Puppet, 'parts'>, parts: readonly PartId[]): PartId[] {
  const out = new Set<PartId>()
  const add = (id: PartId): void => {
    const chain: PartId[] = []
    for (let at: PartId | null = id; at !== null && !out.has(at); at = carrierOf(puppet, at)) chain.push(at)
    for (const at of chain.reverse()) out.add(at)
  }
  for (const id of parts) add(id)
  return [...out]
}
