/** Rows of keys: names on the left, a canvas on the right. */
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { Clip, ClipLayer } from '@marionette/core/clips/records'
import { useEditor } from '../../editor/editor'
import { GRIP } from '../../ui/grip'
import { setActing, useActing } from './acting'
import { chosenSet, drawLanes } from './drawLanes'
import { selectOwner, useKeyDrag } from './keyDrag'
import { useSheet } from './pen'
import { ROW, type TimelineRow } from './rows'
import { ScaleBox } from './ScaleBox'
import { useScale, useTimeScale } from './timeScale'

interface LanesProps {
  readonly clip: Clip
  readonly layer: ClipLayer
  readonly rows: readonly TimelineRow[]
}

export function Lanes({ clip, layer, rows }: LanesProps) {
  const editor = useEditor()
  const scale = useTimeScale(clip)
  const keys = useActing((s) => s.keys)
  const channels = new Set(keys.map(({ channel }) => channel))
  const scroller = useRef<HTMLDivElement>(null)
  const [top, setTop] = useState(0)
  const drag = useKeyDrag({ clip, layer, rows, scale, top })
  const canvas = useSheet(
    (sheet) => drawLanes(sheet, { rows, scale, length: clip.length, chosen: chosenSet(keys), top, box: drag.box }),
    (width) => width > 0 && useScale.of(editor).setState({ width }),
  )
  // Rows that were folded away may leave less to scroll than there was.
  useEffect(() => setTop(scroller.current?.scrollTop ?? 0), [rows.length])
  return (
    <div className="relative min-h-0 flex-1" data-testid="lanes">
      <div ref={scroller} className="scroll-thin absolute inset-0 overflow-y-auto" onScroll={(e) => setTop(e.currentTarget.scrollTop)}>
        <div role="list" aria-label="Channels" className="w-[176px]">
          {rows.map((row) => (
            <RowName key={row.id} row={row} isOn={channels.has(row.id)} />
          ))}
        </div>
      </div>
      {/* Beside the bar that scrolls, and handing wheels on to it. */}
      <canvas
        ref={canvas}
        aria-label="Keys"
        className={`absolute top-0 bottom-0 left-[176px] h-full w-[calc(100%-184px)] ${GRIP}`}
        onPointerDown={drag.press}
        onPointerMove={drag.move}
        onPointerUp={() => drag.end(true)}
        onPointerCancel={() => drag.end(false)}
        onDoubleClick={drag.setHere}
        onWheel={(e) => !e.ctrlKey && !e.shiftKey && scroller.current?.scrollBy({ top: e.deltaY })}
      />
      <div className="pointer-events-none absolute top-0 bottom-0 left-[176px] w-[calc(100%-184px)]">
        <ScaleBox clip={clip} layer={layer} scale={scale} />
      </div>
    </div>
  )
}

function RowName({ row, isOn }: { row: TimelineRow; isOn: boolean }) {
  const editor = useEditor()
  const dot = <i className="size-2 flex-none rounded-full" style={{ background: row.colour }} />
  if (row.kind === 'track')
    return (
      <button
        type="button"
        role="listitem"
        className={`flex w-full items-center gap-2 rounded-l-lg pr-2 pl-7 text-left text-xs ${isOn ? 'bg-cord-soft font-[650]' : 'hover:bg-tint'}`}
        style={{ height: ROW }}
        onClick={() => {
          selectOwner(editor, row.id)
          setActing(editor, { keys: row.keys.map(({ time }) => ({ channel: row.id, time })), pose: null })
        }}
      >
        {dot}
        <span className="truncate">{row.name}</span>
      </button>
    )
  return (
    <button
      type="button"
      role="listitem"
      aria-expanded={row.isOpen}
      className="flex w-full items-center gap-2 rounded-l-lg pr-2 pl-2 text-left text-xs hover:bg-tint"
      style={{ height: ROW }}
      onClick={() => {
        const unfolded = new Set(useActing.of(editor).getState().unfolded)
        if (!unfolded.delete(row.id)) unfolded.add(row.id)
        setActing(editor, { unfolded })
      }}
    >
      {row.isOpen ? <ChevronDown size={12} className="text-quiet" /> : <ChevronRight size={12} className="text-quiet" />}
      {dot}
      <span className="truncate">{row.name}</span>
      <span className="num text-quiet">{row.count}</span>
    </button>
  )
}
