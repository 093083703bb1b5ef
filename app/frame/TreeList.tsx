/** A tree of rows that can be selected, folded, renamed, dragged and walked by keys. */
import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from '@dnd-kit/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type ReactNode, type RefObject } from 'react'
import { toggleFolded, useSession } from '../editor/session'
import { keyLanding, sideAt, type DropSide } from '../panels/tree'
import type { Row } from '../editor/rows'
import { useEditor } from '../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

interface TreeListProps {
  readonly label: string
  readonly rows: readonly Row[]
  readonly isSelected: (id: string) => boolean
  readonly nameOf: (id: string) => string
  readonly canHold: (id: string) => boolean
  /** Whether a row that is dropped onto the middle of another is masked by it. */
  readonly canMask?: boolean
  readonly onSelect: (id: string, event: { shift: boolean; add: boolean }) => void
  readonly onRename: (id: string, name: string) => void
  readonly onDrop: (dragged: string, row: string, side: DropSide) => void
  readonly onHover: (id: string | null) => void
  /** Colour of the cord that leads to a row; twine without it. */
  readonly cordOf?: (id: string) => string
  /** What stands on the cord's end instead of nothing. */
  readonly lead: (id: string) => ReactNode
  readonly tags: (id: string) => ReactNode
  readonly faded?: (id: string) => boolean
}

const INDENT = 14
const HEIGHT = 30
/** Rows kept on either side of those in sight. */
const OVERSCAN = 40

/** Where keys lead from a row, from before the first one where none has the focus; null where a key is not meant for the tree. */
const STEPS: Readonly<Record<string, (rows: readonly Row[], at: number) => Row | undefined | null>> = {
  ArrowDown: (rows, at) => rows[at + 1],
  ArrowUp: (rows, at) => rows[at < 0 ? 0 : at - 1],
  Home: (rows) => rows[0],
  End: (rows) => rows.at(-1),
  ArrowRight: (rows, at) => (rows[at]?.hasChildren ? rows[at + 1] : null),
  ArrowLeft: (rows, at) => (rows[at] ? rows.find((r) => r.id === nth(rows, at).parent) : null),
}

/** Whether a key folds or unfolds a row rather than leading on from it. */
const foldsBy = (key: string, { id, hasChildren }: Row, folded: ReadonlySet<string>): boolean =>
  hasChildren && ((key === 'ArrowRight' && folded.has(id)) || (key === 'ArrowLeft' && !folded.has(id)))

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

export function TreeList(props: TreeListProps) {
  const editor = useEditor()
  const { rows, onDrop } = props
  const [over, setOver] = useState<{ id: string; side: DropSide } | null>(null)
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }))
  const list = useRef<HTMLUListElement>(null)

  const target = useDropTarget(list, props)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => HEIGHT,
    overscan: OVERSCAN,
  })
  const shown = virtual.getVirtualItems()
  // Tab leads to the selected row, or to the first in sight where that one is scrolled out of being.
  const entry = shown.some(({ index }) => props.isSelected(nth(rows, index).id)) ? null : (virtual.range?.startIndex ?? 0)
  // The row that is to have the focus once it stands where it belongs: it was moved, or has to be scrolled into being.
  const wanted = useRef<string | null>(null)
  useEffect(() => {
    const row = wanted.current === null ? null : rowOf(list.current, wanted.current)
    if (!row) return
    wanted.current = null
    row.focus()
  })
  const onKey = (e: KeyboardEvent): void => {
    // The row with the focus, which need not be selected yet.
    const focused = (e.target as HTMLElement).closest<HTMLElement>('[data-row]')?.dataset['row']
    const at = rows.findIndex((r) => (focused ? r.id === focused : props.isSelected(r.id)))
    const row = rows[at]
    const go = (to: Row | undefined): void => {
      if (!to) return
      props.onSelect(to.id, { shift: e.shiftKey, add: false })
      const there = rowOf(list.current, to.id)
      if (there) return there.focus()
      wanted.current = to.id
      virtual.scrollToIndex(rows.indexOf(to))
    }
    if (e.altKey && row) {
      const landing = keyLanding(rows, at, e.key, props.canHold)
      if (!landing) return
      wanted.current = row.id
      onDrop(row.id, landing.id, landing.side)
      e.preventDefault()
      e.stopPropagation()
      return
    }
    const folded = useSession.of(editor).getState().folded
    if (e.key === 'Enter' && row) useSession.of(editor).setState({ renaming: row.id })
    else if (row && foldsBy(e.key, row, folded)) toggleFolded(editor, row.id)
    else {
      const step = STEPS[e.key]
      const to = step ? step(rows, at) : null
      if (to === null) return
      go(to)
    }
    e.preventDefault()
    e.stopPropagation()
  }
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
        ref={list}
        role="tree"
        aria-label={props.label}
        className="scroll-thin mt-2 min-h-0 flex-1 overflow-y-auto pb-3"
        onKeyDown={onKey}
        onMouseLeave={() => props.onHover(null)}
      >
        {/* Rows that are far out of sight are not there; their room is. */}
        <li role="none" style={{ height: shown[0]?.start ?? 0 }} />
        {shown
          .map(({ index }) => nth(rows, index))
          .map((row) => (
            <TreeRow
              key={row.id}
              row={row}
              list={list}
              {...props}
              drop={over?.id === row.id ? over.side : null}
              tabStop={entry === null ? props.isSelected(row.id) : row === rows[entry]}
            />
          ))}
        <li role="none" style={{ height: virtual.getTotalSize() - (shown.at(-1)?.end ?? 0) }} />
      </ul>
    </DndContext>
  )
}

const rowOf = (list: HTMLElement | null, id: string): HTMLElement | null => list?.querySelector<HTMLElement>(`[data-row="${id}"]`) ?? null

type TreeRowProps = TreeListProps & { row: Row; list: RefObject<HTMLUListElement | null>; drop: DropSide | null; tabStop: boolean }

function TreeRow(props: TreeRowProps) {
  const editor = useEditor()
  const { row, list, drop, tabStop } = props
  const { id, hasChildren } = row
  const folded = useSession((s) => s.folded.has(id))
  const renaming = useSession((s) => s.renaming === id)
  const drag = useDraggable({ id, disabled: renaming })
  const droppable = useDroppable({ id })
  const selected = props.isSelected(id)
  const faded = props.faded?.(id) ?? false
  const setRef = (element: HTMLElement | null): void => {
    drag.setNodeRef(element)
    droppable.setNodeRef(element)
  }
  const click = (e: MouseEvent): void => props.onSelect(id, { shift: e.shiftKey, add: e.ctrlKey || e.metaKey })
  return (
    <li
      ref={setRef}
      role="treeitem"
      data-row={id}
      data-drop={drop ?? undefined}
      aria-selected={selected}
      aria-level={row.depth + 1}
      aria-expanded={hasChildren ? !folded : undefined}
      aria-label={props.nameOf(id)}
      tabIndex={tabStop ? 0 : -1}
      onClick={click}
      onDoubleClick={() => useSession.of(editor).setState({ renaming: id })}
      onMouseEnter={() => props.onHover(id)}
      onPointerDown={drag.listeners?.['onPointerDown'] as never}
      className={`group relative flex items-center gap-1.5 rounded-l-lg pr-2 select-none -outline-offset-2 ${selected ? 'bg-cord-soft font-[650]' : 'hover:bg-tint'} ${
        drop === 'into' ? 'shadow-[inset_0_0_0_2px_var(--cord)]' : drop === 'mask' ? 'shadow-[inset_0_0_0_2px_var(--verdigris)]' : ''
      } ${drag.isDragging ? 'opacity-40' : ''}`}
      style={{ height: HEIGHT, paddingLeft: row.depth * INDENT + 4 }}
    >
      <Cords row={row} colour={props.cordOf?.(id)} />
      {(drop === 'above' || drop === 'below') && (
        <i
          className={`absolute right-0 z-10 h-0.5 rounded bg-cord ${drop === 'above' ? '-top-px' : '-bottom-px'}`}
          style={{ left: row.depth * INDENT + 4 }}
        />
      )}
      {props.lead(id)}
      {renaming ? (
        <NameInput
          name={props.nameOf(id)}
          onDone={(name, isByKey) => {
            if (name) props.onRename(id, name)
            if (isByKey) rowOf(list.current, id)?.focus()
          }}
        />
      ) : (
        <span className={`min-w-0 flex-1 truncate ${faded ? 'text-quiet line-through decoration-1' : ''}`}>{props.nameOf(id)}</span>
      )}
      {!renaming && <span className="flex items-center gap-1 text-quiet">{props.tags(id)}</span>}
      {hasChildren && <FoldButton id={id} folded={folded} overCord={props.cordOf !== undefined} />}
      {!hasChildren && !props.cordOf && <i className="w-3.5 flex-none" />}
      {selected && <i className="absolute top-1 right-0 bottom-1 w-[3px] rounded bg-cord" />}
    </li>
  )
}

function FoldButton({ id, folded, overCord }: { id: string; folded: boolean; overCord: boolean }) {
  const editor = useEditor()
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={folded ? 'Unfold' : 'Fold'}
      className={`text-quiet hover:text-ink ${overCord ? 'absolute right-[26px] rounded bg-tint' : ''} ${folded ? '' : 'opacity-0 group-hover:opacity-100'}`}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation()
        toggleFolded(editor, id)
      }}
    >
      {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
    </button>
  )
}

/** The cords from the rows above: straight on where more siblings follow, round the corner to this row. */
function Cords({ row, colour = 'var(--twine)' }: { row: Row; colour?: string | undefined }) {
  if (row.depth === 0) return null
  const x = (level: number): number => level * INDENT + 12
  const at = x(row.depth - 1)
  return (
    <svg
      className="pointer-events-none absolute top-0 left-0"
      width={at + INDENT}
      height={HEIGHT}
      fill="none"
      strokeWidth="1.5"
      aria-hidden
    >
      {row.rails
        .slice(1)
        .map((goesOn, i) => (goesOn && i < row.depth - 1 ? <path key={i} d={`M${x(i)} 0V${HEIGHT}`} stroke="var(--twine)" /> : null))}
      {row.rails[row.depth] && <path d={`M${at} 0V${HEIGHT}`} stroke="var(--twine)" />}
      <path d={`M${at} 0V9q0 6 6 6h4`} stroke={colour} />
    </svg>
  )
}

function NameInput({ name, onDone }: { name: string; onDone: (name: string | null, isByKey: boolean) => void }) {
  const editor = useEditor()
  const [text, setText] = useState(name)
  const isDone = useRef(false)
  const finish = (result: string | null, isByKey: boolean): void => {
    if (isDone.current) return
    isDone.current = true
    useSession.of(editor).setState({ renaming: null })
    onDone(result !== null && result.trim() !== '' && result.trim() !== name ? result.trim() : null, isByKey)
  }
  return (
    <input
      autoFocus
      aria-label="Name"
      className="min-w-0 flex-1 rounded bg-panel px-1 outline-2 -outline-offset-1 outline-cord"
      value={text}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => finish(text, false)}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter') finish(text, true)
        if (e.key === 'Escape') finish(null, true)
      }}
    />
  )
}
