/** Trees as the roster shows them: flat rows, and what a drop between them means. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { bonesInOrder } from '@marionette/core/bones/tree'
import type { Row } from '../editor/rows'
import { recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'
import { boneOf } from '@marionette/core/bones/lookup'

/** Part rows, front to back: what is painted last stands first. */
export function partRows(puppet: Pick<Puppet, 'parts' | 'root'>, folded: ReadonlySet<string>): Row[] {
  return rowsBelow([...recordOf(puppet.parts, puppet.root).children].reverse(), puppet.root, folded, (id) =>
    [...recordOf(puppet.parts, id).children].reverse(),
  )
}

export function boneRows(puppet: Pick<Puppet, 'bones' | 'skeleton'>, folded: ReadonlySet<string>): Row[] {
  return rowsBelow(puppet.skeleton, null, folded, (id) => recordOf(puppet.bones, id).children)
}

/** Bones whose name or label holds some text, in order and without their tree. */
export const foundBones = (puppet: Pick<Puppet, 'bones' | 'skeleton'>, text: string): Row[] =>
  boneRows(puppet, new Set())
    .filter(({ id }) =>
      `${recordOf(puppet.bones, id).name} ${recordOf(puppet.bones, id).label}`.toLowerCase().includes(text.trim().toLowerCase()),
    )
    .map(({ id }) => ({ id, depth: 0, parent: null, hasChildren: false, rails: [false] }))

/** Groups that start folded: those inside other groups, once there are many parts. */
export function firstFolds(puppet: Puppet): string[] {
  const groups = Object.values(puppet.parts).filter((p) => p.children.length > 0 && p.id !== puppet.root)
  return Object.keys(puppet.parts).length > MANY_PARTS ? groups.map((p) => p.id) : []
}

const MANY_PARTS = 30

function rowsBelow(
  roots: readonly string[],
  top: string | null,
  folded: ReadonlySet<string>,
  childrenOf: (id: string) => readonly string[],
): Row[] {
  const out: Row[] = []
  const walk = (ids: readonly string[], parent: string | null, rails: readonly boolean[]): void => {
    ids.forEach((id, i) => {
      const children = childrenOf(id)
      const goesOn = i < ids.length - 1
      out.push({ id, depth: rails.length, parent, hasChildren: children.length > 0, rails: [...rails, goesOn] })
      if (!folded.has(id)) walk(children, id, [...rails, goesOn])
    })
  }
  walk(roots, top, [])
  return out
}

/** Where a dragged row would land relative to another. */
export type DropSide = 'above' | 'into' | 'below' | 'mask'

/** The side that a pointer at a share (0 to 1) of a row's height means; the middle of what holds nothing may mask. */
export const sideAt = (share: number, canHold: boolean, canMask = false): DropSide => {
  if (!canHold && canMask && share >= 0.28 && share <= 0.72) return 'mask'
  if (!canHold) return share < 0.5 ? 'above' : 'below'
  return share < 0.28 ? 'above' : share > 0.72 ? 'below' : 'into'
}

export interface Landing {
  readonly parent: string | null
  readonly index: number
}

/** Parent and index (bottom to top) of parts dropped at a row. Rows show front first, so above is later in order. */
export function partLanding(puppet: Puppet, row: string, side: DropSide): { parent: string; index: number } {
  if (side === 'into') return { parent: row, index: partOf(puppet, row).children.length }
  const parent = sure(partOf(puppet, row).parent)
  return { parent, index: partOf(puppet, parent).children.indexOf(row) + (side === 'above' ? 1 : 0) }
}

/** Parent and index of a bone dropped at a row. */
export function boneLanding(puppet: Puppet, dragged: string, row: string, side: DropSide): Landing {
  if (side === 'into') return { parent: row, index: boneOf(puppet, row).children.filter((c) => c !== dragged).length }
  const parent = boneOf(puppet, row).parent
  const list = parent === null ? puppet.skeleton : boneOf(puppet, parent).children
  return { parent, index: list.filter((c) => c !== dragged).indexOf(row) + (side === 'below' ? 1 : 0) }
}

/** Bones for a picker, indented by depth. */
export const boneOptions = (puppet: Puppet): { id: string; label: string; colour: number }[] =>
  bonesInOrder(puppet).map((b) => ({ id: b.id, label: b.name, colour: b.colour }))

/**
 * Where a row goes by Alt and an arrow key: before or after its neighbour, into the one above it, or out of its
 * parent. Null where there is no such place.
 */
export function keyLanding(
  rows: readonly Row[],
  at: number,
  key: string,
  canHold: (id: string) => boolean,
): { id: string; side: DropSide } | null {
  const row = rows[at]
  if (!row) return null
  const siblings = rows.filter((r) => r.parent === row.parent && r.depth === row.depth)
  const place = siblings.indexOf(row)
  const before = siblings[place - 1]
  const after = siblings[place + 1]
  if (key === 'ArrowUp' && before) return { id: before.id, side: 'above' }
  if (key === 'ArrowDown' && after) return { id: after.id, side: 'below' }
  if (key === 'ArrowRight' && before && canHold(before.id)) return { id: before.id, side: 'into' }
  if (key === 'ArrowLeft' && row.parent && rows.some((r) => r.id === row.parent)) return { id: row.parent, side: 'below' }
  return null
}
