/** Details of a joint: what meets there, its disc, its round ends, and what a sweep finds. */
import { ArrowDownUp, CircleDot, Trash2 } from 'lucide-react'
import { useRef, useState } from 'react'
import type { CapPieces } from '@marionette/core/joints/jointCaps'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import { deleteJoint, setJoint, swapJoint } from '@marionette/core/joints/commands'
import { jointTurn } from '@marionette/core/joints/turn'
import { capJoint, placedJoint, selectJoint } from './making'
import { BROKEN_FROM, faultSaid, GOOD_BELOW, GRADE_NAMES } from '@marionette/core/reports/sweepGrade'
import { SweepStrip } from './SweepStrip'
import { perform, useDocument, usePuppet, useRestOf } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import { cancelSweep, sweepJoints, sweepOf, useSweeps } from './sweeps'
import { Button, IconButton } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { NumberField } from '../../ui/NumberField'
import { Group, Field } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import type { Joint } from '@marionette/core/joints/records'
import { useEditor } from '../../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

export function JointDetails({ id }: { id: string }) {
  const editor = useEditor()
  const joint = usePuppet((p) => p.joints[id])
  const puppet = useRestOf()
  if (!joint) return null
  const turn = jointTurn(puppet, joint)
  const set = (change: Partial<Joint>): void => {
    const { at, radius } = { ...joint, ...change }
    perform(editor, placedJoint(puppet, edit(setJoint, { joint: id, at, radius }), { ...joint, at, radius }))
  }
  return (
    <>
      <header className="mb-2 flex items-center gap-3">
        <CircleDot size={28} className="text-verdigris" />
        <div className="min-w-0 flex-1">
          <h2 className="truncate font-display text-[17px]/6 font-semibold">{partOf(puppet, joint.over).name}</h2>
          <p className="cap truncate">Joint on {partOf(puppet, joint.under).name}</p>
        </div>
        <IconButton label="Delete joint" onClick={() => perform(editor, [edit(deleteJoint, { joint: id })]) && selectJoint(editor, null)}>
          <Trash2 size={16} />
        </IconButton>
      </header>
      <Group id="joint" title="Pivot and pieces">
        <NumberField label="Pivot x" value={joint.at.x} unit="px" onChange={(v) => v !== null && set({ at: { ...joint.at, x: v } })} />
        <NumberField label="Pivot y" value={joint.at.y} unit="px" onChange={(v) => v !== null && set({ at: { ...joint.at, y: v } })} />
        <NumberField label="Radius" value={joint.radius} unit="px" min={1} onChange={(v) => v !== null && set({ radius: v })} />
        <Field label="Above">
          <PartLink id={joint.over} />
        </Field>
        <Field label="Below">
          <div className="flex items-center gap-1">
            <PartLink id={joint.under} />
            <IconButton label="Swap upper and lower" onClick={() => perform(editor, [edit(swapJoint, { joint: id })])}>
              <ArrowDownUp size={14} />
            </IconButton>
          </div>
        </Field>
        <Field label="Turned by">
          <span className="block truncate">{turn.name}</span>
          <span className="num text-xs text-quiet">
            {Math.round(turn.min)}° to {Math.round(turn.max)}°
          </span>
        </Field>
      </Group>
      <Ends id={id} />
      <SweepGroup id={id} />
    </>
  )
}

function PartLink({ id }: { id: string }) {
  const editor = useEditor()
  const name = usePuppet((p) => p.parts[id]?.name ?? '')
  return (
    <button
      type="button"
      className="min-w-0 flex-1 truncate rounded px-1 text-left hover:bg-tint"
      onClick={() => {
        useSession.of(editor).setState({ joint: null })
        selectParts(editor, id)
      }}
    >
      {name}
    </button>
  )
}

/** A cuff, a hem or the top of a boot is no round end: the other piece alone gets one. */
const PIECES: readonly { value: CapPieces; label: string }[] = [
  { value: 'both', label: 'Both' },
  { value: 'over', label: 'Upper' },
  { value: 'under', label: 'Lower' },
]

function Ends({ id }: { id: string }) {
  const editor = useEditor()
  const [threshold, setThreshold] = useState(LINE_THRESHOLD)
  const [pieces, setPieces] = useState<CapPieces>('both')
  const [done, setDone] = useState<number | null>(null)
  const abort = useRef<AbortController | null>(null)
  const hasPicture = usePuppet((p) => {
    const joint = recordOf(p.joints, id)
    return [joint.under, joint.over].some((part) => p.parts[part]?.content.kind === 'picture')
  })
  const cap = async (): Promise<void> => {
    abort.current = new AbortController()
    setDone(0)
    const isCapped = await capJoint(editor, id, { threshold, pieces }, setDone, abort.current.signal)
    setDone(null)
    if (isCapped) void sweepJoints(editor, [id])
  }
  return (
    <Group id="ends" title="Round ends">
      <p className="mb-2 text-xs text-quiet">Pieces end in the circle; the upper one covers the lines below it.</p>
      <Segments label="Which pieces are rounded" value={pieces} options={PIECES} onChange={setPieces} />
      {hasPicture && (
        <NumberField
          label="Line below"
          value={Math.round(threshold * 100)}
          unit="% light"
          min={0}
          max={100}
          digits={0}
          onChange={(v) => v !== null && setThreshold(v / 100)}
        />
      )}
      <div className="mt-2 flex items-center gap-2">
        {done === null ? (
          <Button small onClick={() => void cap()}>
            Round the ends
          </Button>
        ) : (
          <>
            <progress className="h-1.5 flex-1" value={done} aria-label="Rounding" />
            <Button small onClick={() => abort.current?.abort()}>
              Cancel
            </Button>
          </>
        )}
      </div>
    </Group>
  )
}

function SweepGroup({ id }: { id: string }) {
  const editor = useEditor()
  const running = useSweeps((s) => (s.running?.joint === id ? s.running.done : null))
  const state = useSweeps()
  const swept = useDocument((s) => (s.puppet ? sweepOf(state, s.puppet, id) : null))
  return (
    <Group id="sweep" title="Faults when it turns">
      {swept ? (
        <>
          <p className="mb-2 text-xs" data-testid="sweep-verdict" data-grade={swept.sweep.verdict.grade}>
            <strong className="inline-block font-semibold first-letter:uppercase">{GRADE_NAMES[swept.sweep.verdict.grade]}</strong>
            <span className="text-quiet">
              {swept.sweep.verdict.grade === 'good' ? GOOD : `: it ${faultSaid(swept.sweep.verdict)}. ${THRESHOLDS}`}
            </span>
          </p>
          <dl className="grid grid-cols-3 gap-2 text-center" data-testid="sweep-counts">
            {swept.sweep.worst.map(({ kind, across, angle, grade }) => (
              <div key={kind} className={`rounded-lg py-1.5 ${grade === 'good' ? 'bg-tint' : 'bg-brass-soft'}`}>
                <dd className="num text-[15px] font-semibold" data-count={kind} title={`at ${Math.round(angle)}°`}>
                  {across}
                </dd>
                <dt className="cap">{LABELS[kind]}</dt>
              </div>
            ))}
          </dl>
        </>
      ) : (
        <p className="text-xs text-quiet">Turns the joint through its range and says where it opens, shows a corner or a line too many.</p>
      )}
      <div className="mt-2 flex items-center gap-2">
        {running === null ? (
          <Button small kind={swept ? 'line' : 'ink'} onClick={() => void sweepJoints(editor, [id])}>
            {swept ? 'Test again' : 'Range test'}
          </Button>
        ) : (
          <>
            <progress className="h-1.5 flex-1" value={running} aria-label="Testing the range" />
            <Button small onClick={() => cancelSweep(editor)}>
              Cancel
            </Button>
          </>
        )}
      </div>
      {swept && <SweepStrip key={id} swept={swept} />}
    </Group>
  )
}

const LABELS = { holes: 'px hole', corners: 'px corner', doubled: 'px line' } as const

const percent = (share: number): string => `${Math.round(100 * share)}%`
const GOOD = `: nothing larger than ${percent(GOOD_BELOW)} of its circle at any angle.`
const THRESHOLDS = `Good is below ${percent(GOOD_BELOW)}, broken from ${percent(BROKEN_FROM)}.`
