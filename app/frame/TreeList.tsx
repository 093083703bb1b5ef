/** A tree of rows that can be selected, folded, renamed, dragged and walked by keys. */
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent, type DragMoveEvent } from '@dnd-kit/core'
import { useTree } from '@headless-tree/react'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useEffect, useMemo, useRef, useState, type MouseEvent, type RefObject } from 'react'
import { nth } from '@marionette/core/kernel/sure'
import { useEditor } from '../editor/editor'
import type { Row } from '../editor/rows'
import { toggleFolded, useSession } from '../editor/session'
import { sideAt, type DropSide } from '../panels/tree'
import { branchesOf, rowKeys, treeOf } from './treeKeys'
import { ROW_HEIGHT, TreeRow, type RowLook } from './TreeRow'

interface TreeListProps extends RowLook {
  readonly label: string
  readonly rows: readonly Row[]
  readonly isSelected: (id: string) => boolean
  readonly canHold: (id: string) => boolean
  /** Whether a row that is dropped onto the middle of another is masked by it. */
  readonly canMask?: boolean
  readonly onSelect: (id: string, event: { shift: boolean; add: boolean }) => void
  readonly onRename: (id: string, name: string) => void
  readonly onDrop: (dragged: string, row: string, side: DropSide) => void
  readonly onHover: (id: string | null) => void
}

/** Rows kept on either side of those in sight. */
const OVERSCAN = 40

/** Keys that mean the tree, whatever else they mean on the stage. */
const OWN_KEYS = new Set(['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End', 'Enter'])

/** Finds where a dragged row would land. A quick drop ends before the last movement was rendered; the pointer itself is never behind. */
function useDropTarget(list: RefObject<HTMLUListElement | null>, { canHold, canMask }: Pick<TreeListProps, 'canHold' | 'canMask'>) {
  const pointerY = useRef(0)
  useEffect(() => {
    const follow = (e: PointerEvent): void => void (pointerY.current = e.clientY)
    const kinds = ['pointerdown', 'pointermove', 'pointerup'] as const
    for (const kind of kinds) window.addEventListener(kind, follow, true)
    return () => kinds.forEach((kind) => window.removeEventListener(kind, follow, true))
  }, [])
  return (e: DragMoveEvent | DragEndEvent): { id: string; side: DropSide } | null => {
    const y = pointerY.current
    const row = [...(list.current?.querySelectorAll<HTMLElement>('[data-row]') ?? [])].find((el) => {
      const box = el.getBoundingClientRect()
      return y >= box.top && y < box.bottom
    })
    const id = row?.dataset['row']
    if (!row || !id || id === e.active.id) return null
    const box = row.getBoundingClientRect()
    return { id, side: sideAt((y - box.top) / box.height, canHold(id), canMask) }
  }
}

/** The tree of the package over our rows. Its focus is kept here, what is selected and folded by the session. */
function useRowTree(props: TreeListProps, focusRow: (id: string) => void) {
  const editor = useEditor()
  const { rows, nameOf, canHold, onSelect, onDrop } = props
  const folded = useSession((s) => s.folded)
  const [focus, setFocus] = useState<string | null>(null)
  // Made anew with the rows, which tells the package to look at them again.
  const expandedItems = useMemo(() => rows.filter((row) => row.hasChildren && !folded.has(row.id)).map((row) => row.id), [rows, folded])
  const branches = useMemo(() => branchesOf(rows), [rows])
  const isSelected = (row: Row): boolean => props.isSelected(row.id)
  // What was selected elsewhere is where Tab leads, not the row that had the focus before.
  const had = rows.find((row) => row.id === focus)
  const focusedItem = (had && isSelected(had) ? had : (rows.find(isSelected) ?? had))?.id ?? null
  const goTo = (id: string, shift: boolean): void => {
    setFocus(id)
    onSelect(id, { shift, add: false })
  }
  const tree = useTree<Row>({
    ...treeOf(branches, nameOf),
    state: { expandedItems, focusedItem },
    setFocusedItem: (id) => typeof id === 'string' && goTo(id, false),
    setExpandedItems: (ids) => {
      if (!Array.isArray(ids)) return
      const now = new Set(ids)
      const before = new Set(expandedItems)
      for (const row of rows) if (row.hasChildren && now.has(row.id) !== before.has(row.id)) toggleFolded(editor, row.id)
    },
    scrollToItem: (item) => focusRow(item.getId()),
    ignoreHotkeysOnInputs: true,
    hotkeys: rowKeys({
      rows,
      canHold,
      extendTo: (id) => goTo(id, true),
      rename: (id) => useSession.of(editor).setState({ renaming: id }),
      drop: (id, landing) => onDrop(id, landing.id, landing.side),
    }),
  })
  return { tree, setFocus }
}

const rowOf = (list: HTMLElement | null, id: string): HTMLElement | null => list?.querySelector<HTMLElement>(`[data-row="${id}"]`) ?? null

export function TreeList(props: TreeListProps) {
  const { rows, onDrop } = props
  const [over, setOver] = useState<{ id: string; side: DropSide } | null>(null)
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }))
  const list = useRef<HTMLUListElement>(null)
  const target = useDropTarget(list, props)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: OVERSCAN,
  })
  // The row that is to have the focus once it stands where it belongs: it was moved, or has to be scrolled into being.
  const wanted = useRef<string | null>(null)
  useEffect(() => {
    const row = wanted.current === null ? null : rowOf(list.current, wanted.current)
    if (!row) return
    wanted.current = null
    row.focus()
  })
  const { tree, setFocus } = useRowTree(props, (id) => {
    wanted.current = id
    const at = rows.findIndex((row) => row.id === id)
    if (!rowOf(list.current, id) && at >= 0) virtual.scrollToIndex(at)
  })
  const shown = virtual.getVirtualItems()
  // Tab leads to the row of the tree's focus, or to the first in sight where that one is scrolled out of being.
  const focused = tree.getState().focusedItem
  const entry = shown.some(({ index }) => nth(rows, index).id === focused) ? focused : rows[virtual.range?.startIndex ?? 0]?.id
  const { ref: _, ...own } = tree.getContainerProps(props.label)
  // One function for good: the package listens to the element from the moment in which it is told of it.
  const setRef = useCallback(
    (element: HTMLUListElement | null): void => {
      list.current = element
      tree.registerElement(element)
    },
    [tree],
  )
  return (
    <DndContext
      sensors={sensors}
      onDragMove={(e) => setOver(target(e))}
      onDragCancel={() => setOver(null)}
      onDragEnd={(e) => {
        const drop = target(e)
        setOver(null)
        if (drop) onDrop(String(e.active.id), drop.id, drop.side)
      }}
    >
      <ul
        {...own}
        ref={setRef}
        className="scroll-thin mt-2 min-h-0 flex-1 overflow-y-auto pb-3"
        onKeyDown={(e) => OWN_KEYS.has(e.key) && e.stopPropagation()}
        onMouseLeave={() => props.onHover(null)}
      >
        {/* Rows that are far out of sight are not there; their room is. */}
        <li role="none" style={{ height: shown[0]?.start ?? 0 }} />
        {shown
          .map(({ index }) => nth(rows, index))
          .map((row) => {
            const item = tree.getItemInstance(row.id)
            const selected = props.isSelected(row.id)
            return (
              <TreeRow
                key={row.id}
                {...props}
                row={row}
                selected={selected}
                drop={over?.id === row.id ? over.side : null}
                onRenamed={(id) => rowOf(list.current, id)?.focus()}
                own={{
                  ...item.getProps(),
                  'aria-selected': selected,
                  tabIndex: row.id === entry ? 0 : -1,
                  onFocus: () => setFocus(row.id),
                  onClick: (e: MouseEvent) => props.onSelect(row.id, { shift: e.shiftKey, add: e.ctrlKey || e.metaKey }),
                }}
              />
            )
          })}
        <li role="none" style={{ height: virtual.getTotalSize() - (shown.at(-1)?.end ?? 0) }} />
      </ul>
    </DndContext>
  )
}
