/** The paint order that a template knows, for the parts that lie directly in the puppet. */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import type { Template } from './template'
import { nth, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/**
 * The parts of the top of a puppet as the template would have them painted, bottom to top: those whose roles it orders
 * change places among themselves, all others stay where they are.
 *
 * @param roles of parts
 */
export function paintOrder(puppet: Puppet, template: Template, roles: Readonly<Record<PartId, string>>): PartId[] {
  const rank = new Map(template.order.map((role, i) => [role, i]))
  const { children } = partOf(puppet, puppet.root)
  const rankOf = (id: PartId): number | undefined => rank.get(roles[id] ?? '')
  const sorted = children.filter((id) => rankOf(id) !== undefined).sort((a, b) => sure(rankOf(a)) - sure(rankOf(b)))
  let next = 0
  return children.map((id) => (rankOf(id) === undefined ? id : nth(sorted, next++)))
}

/** How many parts the template would paint elsewhere. */
export function outOfOrder(puppet: Puppet, template: Template, roles: Readonly<Record<PartId, string>>): number {
  const { children } = partOf(puppet, puppet.root)
  return paintOrder(puppet, template, roles).filter((id, i) => id !== children[i]).length
}
