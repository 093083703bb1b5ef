/** Questions about sheets. */
import type { PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { recordOf } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** The puppet with a sheet as it was before it was split; the same object where it never was. */
export function wholeSheet(puppet: Puppet, part: PartId): Puppet {
  const top = partOf(puppet, part)
  if (!top.sheet) return puppet
  const { whole, home } = top.sheet
  const restored = (p: Part): Part => {
    const art = whole[p.id]
    return art ? { ...p, art: { [puppet.view]: art } } : p
  }
  const parts = Object.fromEntries(Object.values(puppet.parts).map((p) => [p.id, restored(p)]))
  return { ...puppet, parts: { ...parts, [part]: { ...recordOf(parts, part), home } } }
}
