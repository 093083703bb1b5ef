/** The rows of the interface as a tree of the tree package: who lies in whom, and what the keys do. */
import {
  hotkeysCoreFeature,
  syncDataLoaderFeature,
  type CustomHotkeysConfig,
  type FeatureImplementation,
  type TreeConfig,
} from '@headless-tree/core'
import type { Row } from '../editor/rows'
import { keyLanding, type DropSide } from '../panels/tree'

/** What the tree package calls the row above all rows, which is never shown. */
const TOP = 'top of the tree'
const ABOVE_ALL: Row = { id: TOP, depth: -1, parent: null, hasChildren: true, rails: [] }

interface Branches {
  readonly byId: ReadonlyMap<string, Row>
  readonly inside: ReadonlyMap<string, readonly string[]>
}

/** Rows by id, and the ids of those that lie in each. A row whose parent is not listed lies at the top. */
export function branchesOf(rows: readonly Row[]): Branches {
  const byId = new Map(rows.map((row) => [row.id, row]))
  const inside = new Map<string, string[]>()
  for (const { id, parent } of rows) {
    const holder = parent !== null && byId.has(parent) ? parent : TOP
    const held = inside.get(holder)
    if (held) held.push(id)
    else inside.set(holder, [id])
  }
  return { byId, inside }
}

/**
 * The package gives the focus after a wait, and would take it out of a field that was opened meanwhile: whoever is
 * asked to bring a row into sight gives it the focus, too.
 */
const focusAtOnce: FeatureImplementation<Row> = {
  key: 'focus-at-once',
  treeInstance: {
    updateDomFocus: ({ tree }: { tree: Tree }) => tree.getConfig().scrollToItem?.(tree.getFocusedItem()),
  },
}

/** Where the rows are from and what they are called, as the tree package asks for it. */
export function treeOf({ byId, inside }: Branches, nameOf: (id: string) => string): TreeConfig<Row> {
  return {
    rootItemId: TOP,
    features: [syncDataLoaderFeature, hotkeysCoreFeature, focusAtOnce],
    getItemName: (item) => nameOf(item.getId()),
    isItemFolder: (item) => byId.get(item.getId())?.hasChildren ?? false,
    dataLoader: { getItem: (id) => byId.get(id) ?? ABOVE_ALL, getChildren: (id) => [...(inside.get(id) ?? [])] },
  }
}

interface KeyedTree {
  readonly rows: readonly Row[]
  readonly canHold: (id: string) => boolean
  /** Leads on by a row, adding it to what is selected. */
  readonly extendTo: (id: string) => void
  readonly rename: (id: string) => void
  readonly drop: (id: string, landing: { id: string; side: DropSide }) => void
}

/** Both keys of that name: the package knows keys by their place. */
const ALTS = ['AltLeft', 'AltRight']
const ARROWS = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight']

/** Keys beside those that the package has: Shift extends what is selected, Alt moves a row, Enter renames it. */
export function rowKeys({ rows, canHold, extendTo, rename, drop }: KeyedTree): CustomHotkeysConfig<Row> {
  const move = (alt: string, key: string) => ({
    hotkey: `${alt}+${key}`,
    canRepeat: true,
    preventDefault: true,
    handler: (_: KeyboardEvent, tree: Tree) => {
      const { id } = at(tree)
      const landing = keyLanding(
        rows,
        rows.findIndex((row) => row.id === id),
        key,
        canHold,
      )
      if (!landing) return
      drop(id, landing)
      tree.updateDomFocus()
    },
  })
  const extend = (key: string, step: 1 | -1) => ({
    hotkey: `Shift+${key}`,
    canRepeat: true,
    preventDefault: true,
    handler: (_: KeyboardEvent, tree: Tree) => {
      const next = rows[rows.findIndex((row) => row.id === at(tree).id) + step]
      if (!next) return
      extendTo(next.id)
      tree.updateDomFocus()
    },
  })
  return {
    expandOrDown: { hotkey: 'ArrowRight', preventDefault: true },
    collapseOrUp: { hotkey: 'ArrowLeft', preventDefault: true },
    focusFirstItem: { hotkey: 'Home', preventDefault: true },
    focusLastItem: { hotkey: 'End', preventDefault: true },
    ...Object.fromEntries(ALTS.flatMap((alt) => ARROWS.map((key) => [`custom${alt}${key}` as const, move(alt, key)]))),
    customExtendUp: extend('ArrowUp', -1),
    customExtendDown: extend('ArrowDown', 1),
    customRename: { hotkey: 'Enter', preventDefault: true, handler: (_, tree) => rename(at(tree).id) },
  }
}

type Tree = Parameters<NonNullable<NonNullable<CustomHotkeysConfig<Row>['focusNextItem']>['handler']>>[1]

/** The row that has the focus. */
const at = (tree: Tree): { id: string } => ({ id: tree.getFocusedItem().getId() })
