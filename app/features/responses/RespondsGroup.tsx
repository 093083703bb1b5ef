/** In the details of a bone, part or control: what answers to it, what it answers to, and Record. */
import { counted } from '@marionette/core/kernel/counted'
import { Circle } from 'lucide-react'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { channelOf } from '@marionette/core/puppet/channels'
import type { Input, InputSpot, Puppet, Response } from '@marionette/core/puppet/schema'
import { restOfInput } from '@marionette/core/responses/inputs'
import { Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { usePuppet } from '../../editor/document'
import { posedFrame } from '../../editor/poseInverse'
import { inputsNow, recordAt, recordNew, useRecording } from './recording'
import { hereOf, isAway, MOST_INPUTS, recordHere, recordTogether } from './recordHere'
import { isRestShownIn, useSession } from '../../editor/session'
import { useTouch } from '../touch/settings'
import { openResponse } from './ResponseList'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { inputUnit, inputWords, shortNumber } from './words'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

const listensTo = (response: Response, channel: string): boolean =>
  response.inputs.some((i) => i.kind === 'channel' && i.channel === channel)

/** Responses that change something of a thing: its channels, or the drawing that a part shows. */
export const thatMove = ({ responses }: Puppet, family: string, id: string): Response[] =>
  responses.filter((r) =>
    r.stops.some((s) =>
      s.changes.some((c) =>
        c.kind === 'channel' || c.kind === 'choice' ? c.channel.startsWith(`${family}/${id}/`) : family === 'part' && c.part === id,
      ),
    ),
  )

/** Responses that move any of some points of a part. */
const thatMovePoints = ({ responses }: Puppet, part: string, points: ReadonlySet<number>): Response[] =>
  responses.filter((r) =>
    r.stops.some((s) => s.changes.some((c) => c.kind === 'points' && c.part === part && c.ids.some((id) => points.has(id)))),
  )

interface RespondsProps {
  readonly family: 'bone' | 'part' | 'control'
  readonly id: string
  /** What can be listened to; of several the first two make a pad. */
  readonly channels: readonly string[]
}

export function RespondsGroup({ family, id, channels }: RespondsProps) {
  const puppet = usePuppet((p) => p)
  const recording = useRecording((s) => s.recording)
  const answering = puppet.responses.filter((r) => channels.some((c) => listensTo(r, c)))
  const points = useTouch((s) => s.points)
  const hasPoints = family === 'part' && points.size > 0
  const moving = hasPoints ? thatMovePoints(puppet, id, points) : thatMove(puppet, family, id)
  if (recording) return null
  return (
    <Group id="responds" title="Responses" aside={<span className="cap">{answering.length + moving.length || ''}</span>}>
      <RecordButton channels={channels} />
      <CorrectionButtons channels={channels} />
      {family === 'bone' && <BetweenBones />}
      {family === 'bone' && <AtSpeed bone={id} />}
      {answering.length > 0 && <Rows title="Answer to it" responses={answering} />}
      {moving.length > 0 && <Rows title={hasPoints ? 'Move the chosen points' : 'Move it'} responses={moving} />}
    </Group>
  )
}

function Rows({ title, responses }: { title: string; responses: readonly Response[] }) {
  const editor = useEditor()
  return (
    <div className="mt-2">
      <p className="cap">{title}</p>
      {responses.map((r) => (
        <button
          key={r.id}
          type="button"
          aria-label={`Response ${r.name}`}
          className={`flex h-7 w-full items-center gap-2 rounded-lg px-1 text-left hover:bg-tint ${r.muted ? 'opacity-55' : ''}`}
          onClick={() => openResponse(editor, r.id)}
        >
          <span className="min-w-0 flex-1 truncate">{r.name}</span>
          <span className="cap">{counted(r.stops.length, 'stop')}</span>
        </button>
      ))}
    </div>
  )
}

/** Records at the present values: into the response that is there, or a new one. At rest it says what to do first. */
function RecordButton({ channels }: { channels: readonly string[] }) {
  const editor = useEditor()
  const navigate = useNavigate()
  const { id } = useParams()
  const isRest = useSession(isRestShownIn)
  const puppet = usePuppet((p) => p)
  const here = hereOf(editor, puppet, channels)
  const record = (): void => {
    if (!here) return
    if (isRest) void navigate(`/puppet/${id}/shape`, { replace: true })
    recordHere(editor, here)
  }
  return (
    <>
      <button
        type="button"
        disabled={!here}
        onClick={record}
        className="flex h-8 items-center gap-2 rounded-full bg-[var(--record)] px-3.5 font-semibold text-[var(--on-record)] disabled:bg-tint disabled:text-quiet"
      >
        <Circle size={11} fill="currentColor" /> {here ? `Record at ${here.words}` : 'Record'}
      </button>
      {!here && <p className="cap mt-1">Bring it away from rest first: rest stays as it is.</p>}
    </>
  )
}

/** Single inputs of rulers that are away from rest besides this one: with each of them a combination can be corrected. */
function CorrectionButtons({ channels }: { channels: readonly string[] }) {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const away = (address: string): boolean => isAway(editor, puppet, address)
  const own = channels.find(away)
  if (own === undefined) return null
  const heard = new Set(
    puppet.responses.flatMap((r) => (r.kind === 'ruler' ? r.inputs : [])).flatMap((i) => (i.kind === 'channel' ? [i.channel] : [])),
  )
  const others = [...heard].filter((address) => !channels.includes(address) && away(address))
  const correct = (addresses: readonly string[], label: string) => (
    <Button key={addresses.join()} small className="max-w-full" title={label} onClick={() => recordTogether(editor, addresses)}>
      <span className="truncate">{label}</span>
    </Button>
  )
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5">
      {others
        .slice(0, SHOWN_OTHERS)
        .map((other) => correct([own, other], `Correct with ${inputWords(puppet, { kind: 'channel', channel: other })}`))}
      {others.length > 1 && correct([own, ...others], `Correct with all ${Math.min(others.length, MOST_INPUTS - 1)} away from rest`)}
    </div>
  )
}

const SHOWN_OTHERS = 3

/** A bone that turns fast can be answered to: recording goes on as if it turned at a speed, while it stands still. */
function AtSpeed({ bone }: { bone: string }) {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const isRest = useSession(isRestShownIn)
  const [speed, setSpeed] = useState(180)
  const input: Input = { kind: 'speed', bone }
  if (isRest) return null
  const record = (): void => {
    const there = puppet.responses.find((r) => r.kind === 'ruler' && r.inputs.some((i) => i.kind === 'speed' && i.bone === bone))
    if (there) recordAt(editor, there, [speed])
    else recordNew(editor, 'ruler', [input], [speed])
  }
  return (
    <div className="mt-1.5 flex items-center gap-2">
      <NumberField
        label="At a speed of"
        value={speed}
        unit="°/s"
        min={-2000}
        max={2000}
        digits={0}
        onChange={(v) => v !== null && setSpeed(v)}
      />
      <Button small aria-label="Record at this speed" disabled={speed === 0} onClick={record}>
        Record
      </Button>
    </div>
  )
}

/**
 * How far one bone is from another, or from a target, and the direction from one to the other, are listened to: of two selected
 * bones their starts, of one its end and a target that is chosen.
 */
function BetweenBones() {
  const editor = useEditor()
  const { kind, ids } = useSession((s) => s.selection)
  const puppet = usePuppet((p) => p)
  const isRest = useSession(isRestShownIn)
  const [target, setTarget] = useState('')
  const [a, b] = ids
  if (kind !== 'bone' || isRest || a === undefined || !puppet.bones[a] || ids.length > 2) return null
  const targets = Object.values(puppet.targets)
  const to: InputSpot | null = b && puppet.bones[b] ? { bone: b, end: 'start' } : puppet.targets[target] ? { target } : null
  const inputs = (['distance', 'direction'] as const).flatMap((way): Input[] =>
    to ? [{ kind: way, from: { bone: a, end: b ? 'start' : 'end' }, to }] : [],
  )
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5">
      {!b && targets.length > 0 && (
        <Pick
          label="Distance to a target"
          value={target}
          options={[{ id: '', label: 'Distance to a target…' }, ...targets.map((t) => ({ id: t.id, label: t.name }))]}
          onChange={setTarget}
        />
      )}
      {inputs.map((input) => {
        const at = inputsNow(posedFrame(editor), { inputs: [input] })
        const isAway = Math.abs(nth(at, 0) - (restOfInput(puppet, input, channelOf) ?? 0)) > 1e-3
        return (
          <Button key={input.kind} small disabled={!isAway} onClick={() => recordNew(editor, 'ruler', [input], at)}>
            Record at {input.kind} {shortNumber(nth(at, 0))}
            {inputUnit(puppet, input)}
          </Button>
        )
      })}
    </div>
  )
}
