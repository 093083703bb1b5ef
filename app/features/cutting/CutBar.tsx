/** Beside the selected area: its size, how it is selected, and where it goes. */
import { BoxSelect, Lasso, Minus, PaintBucket, Pipette, Plus, Repeat, Spline } from 'lucide-react'
import { useMemo, useState } from 'react'
import type { Part } from '@marionette/core/puppet/schema'
import { cancelBusy } from './busy'
import { keepsByItself, repeatSending, sendArea, suggestedNames, targetsOf } from './sending'
import { fillSelected } from './filling'
import { growArea, leaveOutForeign } from './selecting'
import { useCut, type CutBy } from './selection'
import { openPuppet, usePuppet } from '../../editor/document'
import { useSession, useTool } from '../../editor/session'
import { Button, IconButton } from '../../ui/Button'
import { SmallNumber } from '../../ui/SmallNumber'
import { StageBar } from '../../stage/StageBar'
import { useEditor } from '../../editor/editor'
import { useKeysFor } from '../../panels/keymap'
import { Box } from '../../ui/Box'
import { Pick, type Option } from '../../ui/Pick'

const WAYS: readonly { readonly by: CutBy; readonly label: string; readonly icon: typeof Lasso }[] = [
  { by: 'lasso', label: 'Lasso and straight corners', icon: Lasso },
  { by: 'box', label: 'Box', icon: BoxSelect },
  { by: 'colour', label: 'Area of one colour', icon: Pipette },
  { by: 'stretch', label: 'Stretch of an outline', icon: Spline },
]

export function CutBar() {
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'select')
  if (bench !== 'parts' || tool !== 'cut') return null
  return (
    <StageBar label="Cutting">
      <Ways />
      <Chosen />
    </StageBar>
  )
}

function Ways() {
  const editor = useEditor()
  const by = useCut((s) => s.by)
  const tolerance = useCut((s) => s.tolerance)
  const gap = useCut((s) => s.gap)
  return (
    <>
      {WAYS.map(({ by: way, label, icon: Icon }) => (
        <IconButton
          key={way}
          label={label}
          aria-pressed={by === way}
          className={by === way ? 'bg-ink text-panel! hover:bg-ink hover:text-panel' : ''}
          onClick={() => useCut.of(editor).setState({ by: way })}
        >
          <Icon size={16} />
        </IconButton>
      ))}
      {by === 'colour' && (
        <>
          <SmallNumber label="Tolerance" value={tolerance} max={255} onChange={(v) => useCut.of(editor).setState({ tolerance: v })} />
          <SmallNumber label="Closes gaps of" unit="px" value={gap} max={40} onChange={(v) => useCut.of(editor).setState({ gap: v })} />
        </>
      )}
    </>
  )
}

function Size({ size, isShort }: { size: number; isShort: boolean }) {
  const editor = useEditor()
  return (
    <>
      <span className={`num px-1 text-xs whitespace-nowrap text-quiet ${isShort ? 'sr-only' : ''}`} data-testid="cut-area">
        {Math.round(size).toLocaleString('en')} px²
      </span>
      <IconButton label="Shrink by a pixel" onClick={() => void growArea(editor, -1)}>
        <Minus size={14} />
      </IconButton>
      <IconButton label="Grow by a pixel" onClick={() => void growArea(editor, 1)}>
        <Plus size={14} />
      </IconButton>
    </>
  )
}

function Busy({ done }: { done: number | null }) {
  const editor = useEditor()
  return (
    <div className="flex items-center gap-2 px-2 text-xs text-quiet">
      Working…
      {done !== null && <progress className="h-1.5 w-24" value={done} aria-label="Working" />}
      <Button small onClick={() => cancelBusy(editor)}>
        Cancel
      </Button>
    </div>
  )
}

const NEW = ''

const optionsOf = (group: string, parts: readonly Part[]): Option[] => parts.map((p) => ({ id: p.id, label: p.name, group }))

function Chosen() {
  const editor = useEditor()
  const area = useCut((s) => s.area)
  const size = useCut((s) => s.size)
  const stretch = useCut((s) => s.stretch)
  const foreign = useCut((s) => s.foreign)
  const busy = useCut((s) => s.busy)
  const last = useCut((s) => s.last)
  const keepSet = useCut((s) => s.keep)
  const source = useSession((s) => (s.selection.kind === 'part' ? s.selection.ids[0] : undefined))
  const parts = usePuppet((p) => p.parts)
  const repeatKeys = useKeysFor('repeatCut')
  const [name, setName] = useState('')
  const [to, setTo] = useState(NEW)
  const suggested = useMemo(() => suggestedNames({ ...openPuppet(editor), parts }), [editor, parts])
  if (busy) return <Busy done={busy.done} />
  if (!source || !parts[source]) return <span className="px-2 text-xs text-quiet">Press on the part that is to be cut.</span>
  if (!area && !stretch) return <span className="px-2 text-xs text-quiet">From {parts[source].name}</span>
  const keep = keepSet ?? keepsByItself(openPuppet(editor), source)
  const { missing, here } = targetsOf({ ...openPuppet(editor), parts }, source)
  const target = [...missing, ...here].some((p) => p.id === to) ? to : NEW
  const canSend = target !== NEW || name.trim() !== ''
  const send = (): void => {
    if (canSend) void sendArea(editor, { name, to: target === NEW ? null : target, keep }).then(() => setName(''))
  }
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        send()
      }}
    >
      {foreign && (
        <Button
          small
          title="The selection takes along a bit of what is beside it: leave that bit out"
          className="bg-brass-soft"
          onClick={() => void leaveOutForeign(editor)}
        >
          Leave out neighbour
        </Button>
      )}
      {area ? (
        <Size size={size} isShort={foreign !== null} />
      ) : (
        <span className="px-1 text-xs whitespace-nowrap text-quiet">A stretch of line</span>
      )}
      <Pick
        label="Send to"
        value={target}
        onChange={setTo}
        options={[
          { id: NEW, label: 'New part' },
          ...optionsOf('Not in this view yet', missing),
          ...optionsOf(missing.length > 0 ? 'In this view' : 'Parts', here),
        ]}
        width="w-[104px]"
      />
      {target === NEW && (
        <>
          <input
            aria-label="Name of the piece"
            list="piece-names"
            placeholder="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => e.stopPropagation()}
            className="h-7 w-[128px] rounded-lg bg-tint px-2 text-ink"
          />
          <datalist id="piece-names">
            {suggested.map((s) => (
              <option key={s.role} value={s.name} />
            ))}
          </datalist>
        </>
      )}
      <label className="flex items-center gap-1.5 px-1 text-xs whitespace-nowrap">
        <Box small checked={keep} onChange={(on) => useCut.of(editor).setState({ keep: on })} />
        Keep source
      </label>
      <Button small kind="ink" type="submit" disabled={!canSend}>
        Cut
      </Button>
      {last && (
        <IconButton label="Cut as the last piece" keys={repeatKeys} onClick={() => repeatSending(editor)}>
          <Repeat size={15} />
        </IconButton>
      )}
      {area && (
        <IconButton label="Fill what is missing of the part here" onClick={() => void fillSelected(editor)}>
          <PaintBucket size={15} />
        </IconButton>
      )}
    </form>
  )
}
