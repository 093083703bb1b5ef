/** Under the stage in Rehearse: the open clip over time. */
import { Plus } from 'lucide-react'
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type DragEvent } from 'react'
import type { Clip, Track } from '@marionette/core/clips/records'
import { useEditor } from '../../editor/editor'
import { usePuppet, useRestOf } from '../../editor/document'
import { useSession } from '../../editor/session'
import { store, stored } from '../../editor/settings'
import { isOfSelected } from '../../panels/chosen'
import { Button } from '../../ui/Button'
import { grip, GRIP } from '../../ui/grip'
import { setActing, useActing, useClip, useLayer, type RowFilter } from './acting'
import { Curves, CURVES_HEIGHT } from './Curves'
import { makeClip } from './keying'
import { Lanes } from './Lanes'
import { mouthRowHeight, soundRowsHeight } from './soundLanes'
import { importSound } from './sounds'
import { POSE_LINE_HEIGHT, PoseLine } from './PoseLine'
import { Ruler, RULER_HEIGHT } from './Ruler'
import { isMoving, rowsOf } from './rows'
import { scaleOf, useScale, useTimeWheel } from './timeScale'
import { Transport } from './Transport'

const MouthRow = lazy(() => import('./MouthRow'))
const SoundRows = lazy(() => import('./SoundRows'))

const NAMES_WIDTH = 176

export function Timeline() {
  const isShown = useSession((s) => s.bench === 'rehearse')
  const clip = useClip()
  const editor = useEditor()
  if (!isShown) return null
  return (
    <section
      aria-label="Timeline"
      onDragOver={(e) => isSoundDrag(e) && e.preventDefault()}
      onDrop={(e) => {
        const [file] = e.dataTransfer.files
        if (!clip || !file || !isSoundDrag(e)) return
        e.preventDefault()
        e.stopPropagation()
        void importSound(editor, file)
      }}
      className="relative mx-2 mb-2 flex flex-none flex-col overflow-hidden rounded-2xl bg-panel shadow-1"
    >
      {clip ? <OpenTimeline clip={clip} /> : <NoClip />}
    </section>
  )
}

/** Whether what is dragged over the timeline is a sound, as far as the browser tells. */
const isSoundDrag = (e: DragEvent): boolean =>
  [...e.dataTransfer.items].some(({ kind, type }) => kind === 'file' && (type.startsWith('audio/') || type === ''))

function NoClip() {
  const editor = useEditor()
  return (
    <div className="flex items-center gap-4 px-5 py-4">
      <div className="flex-1">
        <h2 className="font-display text-[17px]/6 font-semibold">No clip yet</h2>
        <p className="text-xs text-quiet">A clip is a short piece of acting. Make one, pose the puppet at a moment, add the pose, go on.</p>
      </div>
      <Button kind="ink" onClick={() => makeClip(editor)}>
        <Plus size={14} /> New clip
      </Button>
    </div>
  )
}

function OpenTimeline({ clip }: { clip: Clip }) {
  const lanes = useRef<HTMLDivElement>(null)
  const [height, setHeight] = useState(storedHeight)
  const wheel = useTimeWheel(clip)
  const unfolded = useActing((s) => s.unfolded)
  const filter = useActing((s) => s.rows)
  const selection = useSession((s) => s.selection)
  const showsCurves = useActing((s) => s.showsCurves)
  const layer = useLayer(clip)
  const controls = usePuppet((p) => p.controls)
  const more = soundRowsHeight(clip) + mouthRowHeight(clip)
  // What rows are called depends on what is there, not on the pose of the moment.
  const puppet = useRestOf()
  const named = useMemo(() => ({ ...puppet, controls }), [puppet, controls])
  const rows = useMemo(() => {
    const isListed = (address: string, track: Track): boolean =>
      filter === 'keyed' || (filter === 'moving' ? isMoving(track) : isOfSelected(selection, address))
    return rowsOf(named, layer, unfolded, clip.layers, isListed)
  }, [named, layer, unfolded, clip.layers, filter, selection])
  useEffect(() => {
    const own = lanes.current
    if (!own) return
    // Listened to by hand, as the page would scroll first.
    const listen = (e: WheelEvent): void => wheel(e, own.getBoundingClientRect().left + NAMES_WIDTH)
    own.addEventListener('wheel', listen, { passive: false })
    return () => own.removeEventListener('wheel', listen)
  }, [wheel])
  return (
    <>
      <HeightGrip height={height} onChange={setHeight} />
      <Transport clip={clip} />
      <div
        ref={lanes}
        className="relative flex flex-col pr-2 pb-2 pl-2"
        style={{ height: height + (showsCurves ? CURVES_HEIGHT - SHARED : 0) + Math.max(0, more - SHARED_BY_MORE) }}
      >
        <div className="flex flex-none" style={{ height: RULER_HEIGHT }}>
          <RowFilters />
          <Ruler clip={clip} />
        </div>
        <div className="flex flex-none" style={{ height: POSE_LINE_HEIGHT }}>
          <span className="w-[176px] flex-none pt-2 pl-2 text-xs font-semibold">
            Poses <span className="num font-normal text-quiet">{clip.poses.length}</span>
          </span>
          <PoseLine clip={clip} />
        </div>
        <Suspense fallback={<div className="flex-none" style={{ height: more }} />}>
          {clip.sounds.length > 0 && <SoundRows clip={clip} />}
          {mouthRowHeight(clip) > 0 && <MouthRow clip={clip} />}
        </Suspense>
        {showsCurves && <Curves clip={clip} layer={layer} />}
        <Lanes clip={clip} layer={layer} rows={rows} />
        <Playhead clip={clip} />
      </div>
    </>
  )
}

const FILTERS: readonly { readonly value: RowFilter; readonly label: string }[] = [
  { value: 'keyed', label: 'Keyed' },
  { value: 'selected', label: 'Selected' },
  { value: 'moving', label: 'Moving' },
]

/** Which rows are listed. */
function RowFilters() {
  const editor = useEditor()
  const filter = useActing((s) => s.rows)
  return (
    <div role="group" aria-label="Rows that are listed" className="flex w-[176px] flex-none items-start gap-0.5 pl-1">
      {FILTERS.map(({ value, label }) => (
        <button
          key={value}
          type="button"
          aria-pressed={filter === value}
          className={`cap rounded-md px-1.5 leading-5 ${filter === value ? 'bg-tint text-ink' : 'hover:text-ink'}`}
          onClick={() => setActing(editor, { rows: value })}
        >
          {label}
        </button>
      ))}
    </div>
  )
}

/** Height of what is under the row of buttons, px: as the person has set it. */
const SETTING = 'timelineHeight'
const [LOWEST, HIGHEST, USUAL] = [140, 520, 232]
/** What curves take of the rows, so that the stage keeps most of its room. */
const SHARED = 56
/** What sounds and mouth shapes take of the rows. */
const SHARED_BY_MORE = 84
const within = (height: number): number => Math.min(HIGHEST, Math.max(LOWEST, height))
const storedHeight = (): number => within(Number(stored(SETTING)) || USUAL)

/** The upper edge, which is dragged to make the timeline higher or lower. */
function HeightGrip({ height, onChange }: { height: number; onChange: (height: number) => void }) {
  const held = useRef<{ y: number; height: number } | null>(null)
  const change = (next: number): void => {
    onChange(within(next))
    store(SETTING, String(within(next)))
  }
  return (
    <div
      role="separator"
      aria-label="Height of the timeline"
      aria-orientation="horizontal"
      aria-valuenow={height}
      tabIndex={0}
      className={`absolute inset-x-0 top-0 z-20 h-1.5 cursor-ns-resize hover:bg-hair ${GRIP}`}
      onPointerDown={(e) => {
        grip(e)
        held.current = { y: e.clientY, height }
      }}
      onPointerMove={(e) => held.current && change(held.current.height + held.current.y - e.clientY)}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
        e.stopPropagation()
        change(height + (e.key === 'ArrowUp' ? 20 : -20))
      }}
    />
  )
}

/** How near to the moment figures of the ruler make room for its own, px. */
const HIDES = 30

/** The moment that is looked at, through all rows. It is moved without drawing anything again. */
function Playhead({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const line = useRef<HTMLDivElement>(null)
  const figure = useRef<HTMLSpanElement>(null)
  useEffect(() => {
    const place = (): void => {
      const { time } = useActing.of(editor).getState()
      const scale = scaleOf(useScale.of(editor).getState(), clip)
      if (!line.current || !figure.current) return
      const x = scale.x(time)
      line.current.style.transform = `translateX(${x}px)`
      line.current.style.visibility = x < -1 || x > scale.width + 1 ? 'hidden' : 'visible'
      const frame = String(Math.round(time * clip.rate))
      figure.current.textContent = frame
      line.current.parentElement
        ?.querySelector('[data-testid=ruler]')
        ?.setAttribute('aria-label', `Moment: frame ${frame}, ${time.toFixed(2)} s`)
      // The figure of the moment stands in place of those of the ruler.
      for (const mark of line.current.parentElement?.querySelectorAll<HTMLElement>('[data-mark]') ?? [])
        mark.style.visibility = Math.abs(Number(mark.dataset['mark']) - x) < HIDES ? 'hidden' : 'visible'
    }
    place()
    const ends = [useActing.of(editor).subscribe(place), useScale.of(editor).subscribe(place)]
    return () => ends.forEach((end) => end())
  }, [editor, clip])
  return (
    <div ref={line} className="pointer-events-none absolute top-0 bottom-1 z-10 w-0" style={{ left: NAMES_WIDTH + 8 }} aria-hidden>
      <div className="absolute top-4 bottom-0 w-px bg-cord" />
      <span
        ref={figure}
        className="num absolute top-0 -translate-x-1/2 rounded-full bg-cord px-1.5 leading-[18px] font-semibold text-on-accent"
        data-testid="playhead"
      />
    </div>
  )
}
