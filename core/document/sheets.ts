/** Questions about sheets. */
import type { PartId } from './ids'
import type { Part, Puppet } from './schema'

/** The puppet with a sheet as it was before it was split; the same object where it never was. */
export function wholeSheet(puppet: Puppet, part: PartId): Puppet {
  const top = puppet.parts[part]!
  if (!top.sheet) return puppet
  const { whole, home } = top.sheet
  const restored = (p: Part): Part => ({ ...p, ...(whole[p.id] && { art: { [puppet.view]: whole[p.id]! } }) })
  const parts = Object.fromEntries(Object.values(puppet.parts).map((p) => [p.id, restored(p)]))
  return { ...puppet, parts: { ...parts, [part]: { ...parts[part]!, home } } }
}
