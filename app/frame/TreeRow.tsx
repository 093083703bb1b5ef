/** One row of a tree: its cords, its name or the field that renames it, what hangs on it, and what unfolds it. */
import { useDraggable } from '@dnd-kit/core'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useRef, useState, type HTMLAttributes, type ReactNode, type Ref } from 'react'
import { toggleFolded, useSession } from '../editor/session'
import { useEditor } from '../editor/editor'
import type { Row } from '../editor/rows'
import type { DropSide } from '../panels/tree'

/** Height of every row in px, on which the places of rows out of sight rest. */
export const ROW_HEIGHT = 30
const INDENT = 14

/** How the rows of one tree look. */
export interface RowLook {
  readonly nameOf: (id: string) => string
  /** Colour of the cord that leads to a row; twine without it. */
  readonly cordOf?: (id: string) => string
  /** What stands on the cord's end instead of nothing. */
  readonly lead: (id: string) => ReactNode
  readonly tags: (id: string) => ReactNode
  readonly faded?: (id: string) => boolean
}

interface TreeRowProps extends RowLook {
  readonly row: Row
  /** Role, state and handlers of the row. */
  readonly own: HTMLAttributes<HTMLElement> & { readonly ref?: Ref<HTMLElement> }
  readonly selected: boolean
  /** Where something that is dragged would land, if it is here. */
  readonly drop: DropSide | null
  readonly onRename: (id: string, name: string) => void
  readonly onHover: (id: string) => void
  /** Gives the row the focus back when its name was set by key. */
  readonly onRenamed: (id: string) => void
}

const DROP_FRAMES: Partial<Record<DropSide, string>> = {
  into: 'shadow-[inset_0_0_0_2px_var(--cord)]',
  mask: 'shadow-[inset_0_0_0_2px_var(--verdigris)]',
}

export function TreeRow(props: TreeRowProps) {
  const editor = useEditor()
  const { row, own, drop, selected } = props
  const { id, hasChildren } = row
  const folded = useSession((s) => s.folded.has(id))
  const renaming = useSession((s) => s.renaming === id)
  const drag = useDraggable({ id, disabled: renaming })
  const faded = props.faded?.(id) ?? false
  const { ref: register, ...rest } = own
  const setRef = (element: HTMLElement | null): void => {
    drag.setNodeRef(element)
    if (typeof register === 'function') register(element)
  }
  return (
    <li
      {...rest}
      ref={setRef}
      data-row={id}
      data-drop={drop ?? undefined}
      onDoubleClick={() => useSession.of(editor).setState({ renaming: id })}
      onMouseEnter={() => props.onHover(id)}
      onPointerDown={drag.listeners?.['onPointerDown'] as never}
      className={`group relative flex items-center gap-1.5 rounded-l-lg pr-2 select-none -outline-offset-2 ${selected ? 'bg-cord-soft font-[650]' : 'hover:bg-tint'} ${
        (drop && DROP_FRAMES[drop]) ?? ''
      } ${drag.isDragging ? 'opacity-40' : ''}`}
      style={{ height: ROW_HEIGHT, paddingLeft: row.depth * INDENT + 4 }}
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
            if (isByKey) props.onRenamed(id)
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
      height={ROW_HEIGHT}
      fill="none"
      strokeWidth="1.5"
      aria-hidden
    >
      {row.rails
        .slice(1)
        .map((goesOn, i) => (goesOn && i < row.depth - 1 ? <path key={i} d={`M${x(i)} 0V${ROW_HEIGHT}`} stroke="var(--twine)" /> : null))}
      {row.rails[row.depth] && <path d={`M${at} 0V${ROW_HEIGHT}`} stroke="var(--twine)" />}
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
