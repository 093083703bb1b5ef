/** The table of weights of the chosen points: a row for each point, a column for each bone that pulls there. */
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef } from 'react'
import { denseRows } from '@marionette/core/binds/weightFields'
import { useRestOf } from '../../editor/document'
import { useSession, useTool } from '../../editor/session'
import { chosenPoints, useWeigh } from './brush'
import { Group } from '../../panels/Group'
import { setPointWeight } from './pointWeights'
import type { Bone } from '@marionette/core/bones/records'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

const ROW = 24

export function PointWeights() {
  const editor = useEditor()
  const puppet = useRestOf()
  const chosen = useWeigh((s) => s.chosen)
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'bones')
  const selection = useSession((s) => s.selection)
  const picked = bench === 'bones' && tool === 'weigh' ? chosenPoints(editor, puppet, { chosen }) : null
  if (!picked) return null
  const own = selection.kind === 'bone' ? selection.ids[0] : undefined
  return (
    <Group id="point-weights" title="Weights of points" aside={<span className="cap">{picked.points.length}</span>}>
      <Table {...picked} bones={picked.bind.bones.map((b) => boneOf(puppet, b))} own={own} />
    </Group>
  )
}

type TableProps = NonNullable<ReturnType<typeof chosenPoints>> & { readonly bones: readonly Bone[]; readonly own: string | undefined }

function Table({ bind, points, bones, own }: TableProps) {
  const editor = useEditor()
  const rows = useMemo(() => denseRows(bind.field, bones.length), [bind.field, bones.length])
  const at = (v: number, b: number): number => nth(rows, v * bones.length + b)
  const columns = bones.map((bone, b) => ({ bone, b })).filter(({ bone, b }) => bone.id === own || points.some((v) => at(v, b) > 0.0005))
  const scroller = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({ count: points.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 6 })
  const mean = (b: number): number => points.reduce((sum, v) => sum + at(v, b), 0) / points.length
  const grid = { gridTemplateColumns: `46px repeat(${columns.length}, minmax(52px, 1fr))` }
  return (
    <div ref={scroller} role="table" aria-label="Weights of the chosen points" className="scroll-thin max-h-56 overflow-auto text-xs">
      <div role="row" className="sticky top-0 z-10 grid bg-paper pb-1" style={grid}>
        <span role="columnheader" className="cap self-end">
          %
        </span>
        {columns.map(({ bone }) => (
          <span key={bone.id} role="columnheader" title={bone.name} className="flex items-center gap-1 truncate pr-1">
            <i className="size-2 flex-none rounded-full" style={{ background: `var(--chain-${bone.colour})` }} />
            <span className="truncate">{bone.name}</span>
          </span>
        ))}
      </div>
      {points.length > 1 && (
        <div role="row" className="grid border-b border-hair" style={grid}>
          <span role="rowheader" className="leading-6">
            All
          </span>
          {columns.map(({ bone, b }) => (
            <Cell key={bone.id} label={`${bone.name}, all points`} weight={mean(b)} onChange={(w) => setPointWeight(editor, bone.id, w)} />
          ))}
        </div>
      )}
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const v = nth(points, index)
          return (
            <div key={v} role="row" className="absolute inset-x-0 grid" style={{ ...grid, top: start, height: ROW }}>
              <span role="rowheader" className="num leading-6 text-quiet">
                {v + 1}
              </span>
              {columns.map(({ bone, b }) => (
                <Cell
                  key={bone.id}
                  label={`${bone.name}, point ${v + 1}`}
                  weight={at(v, b)}
                  onChange={(w) => setPointWeight(editor, bone.id, w, [v])}
                />
              ))}
            </div>
          )
        })}
      </div>
    </div>
  )
}

/** A weight as a percentage; what is typed counts on Enter and on leaving the field. */
function Cell({ label, weight, onChange }: { label: string; weight: number; onChange: (weight: number) => void }) {
  const shown = String(Math.round(weight * 1000) / 10)
  const keep = (field: HTMLInputElement): void => {
    const typed = Number(field.value.replace(',', '.'))
    if (field.value.trim() === '' || !Number.isFinite(typed)) field.value = shown
    else if (field.value !== shown) onChange(Math.min(1, Math.max(0, typed / 100)))
  }
  return (
    <span role="cell">
      <input
        key={shown}
        aria-label={label}
        inputMode="decimal"
        defaultValue={shown}
        className={`num h-6 w-full bg-transparent pr-1 outline-none focus:bg-tint ${weight < 0.0005 ? 'text-quiet' : ''}`}
        onFocus={(e) => e.target.select()}
        onBlur={(e) => keep(e.target)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') {
            e.currentTarget.value = shown
            e.currentTarget.blur()
          }
        }}
      />
    </span>
  )
}
