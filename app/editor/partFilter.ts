/** Finding and sorting rows of the part tree; the drawing order stays as it is. */
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { bindHolder } from '@marionette/core/binds/tree'
import type { Row } from './rows'
import { recordOf } from '@marionette/core/kernel/sure'

export type PartKind = 'group' | 'drawing' | 'picture'

export interface PartFilter {
  readonly text: string
  readonly kind: PartKind | null
  /** Colour tag; 0 for parts without one. */
  readonly tag: number | null
  readonly bound: boolean | null
  readonly masked: boolean | null
  readonly hidden: boolean | null
  readonly locked: boolean | null
  readonly commented: boolean | null
}

export const NO_FILTER: PartFilter = {
  ...{ text: '', kind: null, tag: null },
  ...{ bound: null, masked: null, hidden: null, locked: null, commented: null },
}

export type SortBy = 'order' | 'name' | 'kind' | 'tag'

export const isFiltering = (filter: PartFilter): boolean =>
  Object.entries(filter).some(([key, value]) => value !== NO_FILTER[key as keyof PartFilter])

/** How many conditions hold besides the text. */
export const conditionsOf = (filter: PartFilter): number =>
  Object.entries(filter).filter(([key, value]) => key !== 'text' && value !== null).length

type Tree = Pick<Puppet, 'parts' | 'root' | 'views'>

/**
 * Rows without a tree: all parts that meet a filter, or all parts sorted. Each says in `within` what it is in.
 *
 * @returns front to back, or by what they are sorted by
 */
export function listedRows(puppet: Tree & Puppet, filter: PartFilter, sort: SortBy): Row[] {
  const order = frontToBack(puppet)
  const found = order.filter((part) => meets(puppet, part, filter))
  const sorted = sort === 'order' ? found : [...found].sort(COMPARE[sort])
  return sorted.map((part) => ({ id: part.id, depth: 0, parent: part.parent, hasChildren: false, rails: [false] }))
}

function frontToBack(puppet: Tree): Part[] {
  const out: Part[] = []
  const walk = (ids: readonly string[]): void => {
    for (const id of [...ids].reverse()) {
      out.push(recordOf(puppet.parts, id))
      walk(recordOf(puppet.parts, id).children)
    }
  }
  walk(recordOf(puppet.parts, puppet.root).children)
  return out
}

const byName = (a: Part, b: Part): number => a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' })
const COMPARE: Readonly<Record<Exclude<SortBy, 'order'>, (a: Part, b: Part) => number>> = {
  name: byName,
  kind: (a, b) => a.content.kind.localeCompare(b.content.kind) || byName(a, b),
  // Parts without a tag stand last.
  tag: (a, b) => (a.tag || Infinity) - (b.tag || Infinity) || byName(a, b),
}

/** All words of the text must be in the name, the comment or the role. */
function meets(puppet: Puppet, part: Part, filter: PartFilter): boolean {
  const said = `${part.name} ${part.comment} ${part.role ?? ''}`.toLowerCase()
  const wanted = (value: boolean | null, is: boolean): boolean => value === null || value === is
  return (
    filter.text.toLowerCase().split(/\s+/).every((word) => said.includes(word)) && // prettier-ignore
    (filter.kind === null || part.content.kind === filter.kind) &&
    (filter.tag === null || part.tag === filter.tag) &&
    (filter.bound === null || filter.bound === (bindHolder(puppet, part.id) !== null)) &&
    wanted(filter.masked, part.masks.length > 0) &&
    wanted(filter.hidden, !part.visible) &&
    wanted(filter.locked, part.locked) &&
    wanted(filter.commented, part.comment !== '')
  )
}
