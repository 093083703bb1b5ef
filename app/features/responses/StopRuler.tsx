/** Stops of a response as pictures: on a cord for a ruler, in the plane for a pad. A stop is moved by dragging its ring. */
import { useRef, useState, type PointerEvent } from 'react'
import { channelOf } from '@marionette/core/puppet/channels'
import type { Puppet, Response, Stop } from '@marionette/core/puppet/schema'
import { moveStop } from '@marionette/core/responses/commands'
import { restOfInput } from '@marionette/core/responses/inputs'
import { frameBounds } from '@marionette/core/puppet/probe'
import { poseRig } from '@marionette/core/puppet/evaluate'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { rigOf, usePicture } from '../../pictures/posePictures'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, useDocument, usePuppet } from '../../editor/document'
import { posedFrame } from '../../editor/poseInverse'
import { inputsNow, poseAt, recordAt, recordAgain, recordingNow, useRecording } from './recording'
import { holdSpeedsOf, releaseSpeeds } from '../../editor/speeds'
import { sayKeepFirst } from './guard'
import { scaledStop, StopMenu } from './StopMenu'
import { inputUnit, inputWords, shortNumber } from './words'
import { edit } from '@marionette/core/kernel/command'
import { partsOfBone } from '@marionette/core/binds/tree'
import { useEditor, editorState, type Editor } from '../../editor/editor'
import { grip, GRIP } from '../../ui/grip'
import { nth, sure } from '@marionette/core/kernel/sure'

/** The range that a ruler shows for an input: its limits, or what its stops span. */
export function shownRange(puppet: Puppet, response: Response, k: number): { min: number; max: number } {
  const input = nth(response.inputs, k)
  const rest = restOfInput(puppet, input, channelOf) ?? 0
  const channel = input.kind === 'channel' ? channelOf(puppet, input.channel) : null
  const stops = response.stops.map((s) => nth(s.at, k))
  const wide =
    input.kind === 'speed' ? 400 : channel?.kind === 'angle' ? 90 : channel?.kind === 'scale' ? 1 : input.kind === 'channel' ? 1 : 100
  const lo = channel && Number.isFinite(channel.min) ? channel.min : rest - wide
  const hi = channel && Number.isFinite(channel.max) ? channel.max : rest + wide
  return { min: Math.min(lo, rest, ...stops), max: Math.max(hi, rest, ...stops) }
}

export function StopRuler({ response }: { response: Response }) {
  if (response.kind === 'ruler') return <Cord response={response} />
  return <Plane response={response} />
}

/** Takes a stop as it is on the stage, or records where there is none. */
function take(editor: Editor, response: Response, at: readonly number[]): void {
  const recording = recordingNow(editor)
  const there = response.stops.find((s) => s.at.every((v, k) => Math.abs(v - nth(at, k)) < 1e-6))
  if (recording) {
    if (recording.response !== response.id || there?.id !== recording.stop) sayKeepFirst(editor)
    return
  }
  if (there) {
    holdSpeedsOf(editor, response, there.at)
    void perform(editor, poseAt(response, there.at), `To a stop of ${response.name}`)
  } else if (!recordAt(editor, response, at)) editor.notify.error('There is no stop to be made here.')
}

function Cord({ response }: { response: Response }) {
  const editor = useEditor()
  const line = useRef<HTMLDivElement>(null)
  const { min, max } = shownRange(
    usePuppet((p) => p),
    response,
    0,
  )
  const rest = usePuppet((p) => restOfInput(p, nth(response.inputs, 0), channelOf) ?? 0)
  const unit = usePuppet((p) => inputUnit(p, nth(response.inputs, 0)))
  const now = usePuppet(() => nth(inputsNow(posedFrame(editor), response), 0))
  const [hover, setHover] = useState<number | null>(null)
  const share = (v: number): number => ((v - min) / (max - min)) * 100
  const step = max - min > 20 ? 1 : 0.05
  const valueAt = (clientX: number): number => {
    const box = sure(line.current).getBoundingClientRect()
    const raw = min + ((clientX - box.left) / box.width) * (max - min)
    return Math.round(Math.min(max, Math.max(min, raw)) / step) * step
  }
  const ticks = Array.from({ length: 13 }, (_, k) => min + ((max - min) * k) / 12)
  const gap = response.stops.length < 4
  return (
    <div className="relative h-[98px] px-12" aria-label={`Stops of ${response.name}`} role="group">
      <div ref={line} className="relative h-full">
        <button
          type="button"
          aria-label="Record at a new place of the cord"
          className="absolute inset-x-[-24px] top-1.5 h-5 cursor-copy rounded"
          onPointerMove={(e) => setHover(valueAt(e.clientX))}
          onPointerLeave={() => setHover(null)}
          onClick={(e) => take(editor, response, [e.detail === 0 ? now : valueAt(e.clientX)])}
        >
          <i className="absolute inset-x-0 top-[9px] h-[1.5px] bg-twine" />
        </button>
        {ticks.map((t) => (
          <i key={t} className="pointer-events-none absolute top-5 h-1 w-px bg-twine" style={{ left: `${share(t)}%` }} />
        ))}
        <i
          className="pointer-events-none absolute top-1 h-6 w-px bg-cord"
          style={{ left: `${Math.min(100, Math.max(0, share(now)))}%` }}
          title="Where the input is now"
        />
        {hover !== null && !recordingNow(editor) && (
          <span
            className="num pointer-events-none absolute top-[26px] z-10 -translate-x-1/2 rounded bg-ink px-1.5 text-[11px] text-panel"
            style={{ left: `${share(hover)}%` }}
          >
            Record at {shortNumber(hover)}
            {unit}
          </span>
        )}
        <RestStop left={share(rest)} response={response} label="Rest" at={[rest]} />
        {response.stops.map((stop) => (
          <HungStop
            key={stop.id}
            response={response}
            stop={stop}
            left={share(nth(stop.at, 0))}
            label={`${shortNumber(nth(stop.at, 0))}${unit}`}
            valueAt={valueAt}
          />
        ))}
        {gap && hover === null && <GapHint response={response} share={share} rest={rest} />}
      </div>
    </div>
  )
}

/** Where the cord is widest between stops it says how a new one is made. */
function GapHint({ response, share, rest }: { response: Response; share: (v: number) => number; rest: number }) {
  const places = [0, ...[rest, ...response.stops.map((s) => nth(s.at, 0))].map(share), 100].sort((a, b) => a - b)
  const gaps = places.slice(1).map((p, k) => ({ middle: (p + nth(places, k)) / 2, size: p - nth(places, k) }))
  const widest = gaps.reduce((a, b) => (b.size > a.size ? b : a))
  if (widest.size < 26) return null
  return (
    <span
      className="pointer-events-none absolute top-11 w-24 -translate-x-1/2 text-center text-[11px]/[14px] text-quiet"
      style={{ left: `${widest.middle}%` }}
    >
      click the cord for a new stop
    </span>
  )
}

const EMPTY: Readonly<Record<string, number>> = {}

/** What pictures of stops show: what the response changes, or the whole puppet. */
function regionFor(editor: Editor, puppet: Puppet, response: Response): Bounds | null {
  const parts = new Set(
    response.stops
      .flatMap((s) => s.changes)
      .flatMap((c) => ('part' in c ? [c.part] : c.channel.startsWith('part/') ? [nth(c.channel.split('/'), 1)] : [])),
  )
  const input = nth(response.inputs, 0)
  const bone = input.kind === 'channel' && input.channel.startsWith('bone/') ? nth(input.channel.split('/'), 1) : null
  if (bone) for (const part of partsOfBone(puppet, bone)) parts.add(part.id)
  const rig = rigOf(editor, puppet)
  const boxes = [EMPTY, ...response.stops.map((s) => valuesAt(response, s.at))].flatMap(
    (values) => frameBounds(poseRig(rig, values), parts.size > 0 ? parts : undefined) ?? [],
  )
  return boxes.reduce<Bounds | null>(
    (a, b) =>
      a
        ? { minX: Math.min(a.minX, b.minX), minY: Math.min(a.minY, b.minY), maxX: Math.max(a.maxX, b.maxX), maxY: Math.max(a.maxY, b.maxY) }
        : b,
    null,
  )
}

const valuesAt = ({ inputs }: Response, at: readonly number[]): Record<string, number> =>
  Object.fromEntries(inputs.flatMap((input, k) => (input.kind === 'channel' ? [[input.channel, nth(at, k)]] : [])))

const speedsAt = ({ inputs }: Response, at: readonly number[]): Map<string, number> =>
  new Map(inputs.flatMap((input, k) => (input.kind === 'speed' ? [[input.bone, nth(at, k)] as const] : [])))

interface Own {
  lastRegion: { response: Response; region: Bounds | null } | null
}

const stateOf = editorState((): Own => ({ lastRegion: null }))

/** The region of a response's pictures, found once for what it is now. */
function regionOf(editor: Editor, response: Response): Bounds | null {
  const own = stateOf(editor)
  if (useDocument.of(editor).getState().gesture !== null && own.lastRegion?.response.id === response.id) return own.lastRegion.region
  if (own.lastRegion?.response !== response) own.lastRegion = { response, region: regionFor(editor, openPuppet(editor), response) }
  return own.lastRegion.region
}

function StopPicture({ response, at, on, size = 44 }: { response: Response; at: readonly number[]; on: boolean; size?: number }) {
  const editor = useEditor()
  const values = valuesAt(response, at)
  const url = usePicture(values, regionOf(editor, response), `${response.id} ${at.join(' ')}`, speedsAt(response, at))
  return (
    <span
      className={`block overflow-hidden rounded-lg bg-[var(--stage)] ${on ? 'shadow-[0_0_0_2px_var(--cord)]' : 'group-hover:shadow-[0_0_0_1.5px_var(--twine)]'}`}
      style={{ width: size, height: size }}
    >
      {url && <img src={url} alt="" draggable={false} className="size-full object-contain" />}
    </span>
  )
}

function RestStop({ left, response, label, at }: { left: number; response: Response; label: string; at: readonly number[] }) {
  const editor = useEditor()
  return (
    <button
      type="button"
      aria-label="To rest"
      title="Rest changes nothing"
      className="group absolute top-1.5 flex -translate-x-1/2 flex-col items-center gap-0.5"
      style={{ left: `${left}%` }}
      onClick={() => {
        if (recordingNow(editor)) return sayKeepFirst(editor)
        releaseSpeeds(editor)
        perform(editor, poseAt(response, at), 'To rest')
      }}
    >
      <i className="mb-0.5 size-[18px] rounded-full border-[2.5px] border-ink bg-panel" />
      <StopPicture response={response} at={at} on={false} />
      <span className="text-xs">{label}</span>
    </button>
  )
}

interface HungStopProps {
  readonly response: Response
  readonly stop: Stop
  readonly left: number
  readonly label: string
  readonly valueAt: (clientX: number) => number
}

/** What a drag of a stop does: along the cord it moves, across it everything recorded there gets stronger or weaker. */
interface StopDrag {
  readonly x: number
  readonly y: number
  readonly stop: Stop
  does: 'move' | 'scale' | null
}

/** Way of the pointer, px, by which a stop becomes nothing or twice as strong; and how strong it gets at most. */
const PER_WHOLE = 120
const MOST = 3

function HungStop({ response, stop, left, label, valueAt }: HungStopProps) {
  const editor = useEditor()
  const recording = useRecording((s) => s.recording)
  const isOn = recording?.stop === stop.id
  const drag = useRef<StopDrag | null>(null)
  const [strength, setStrength] = useState<number | null>(null)
  const move = (e: PointerEvent): void => {
    const held = drag.current
    if (!held) return
    const [dx, dy] = [e.clientX - held.x, e.clientY - held.y]
    if (!held.does && Math.hypot(dx, dy) < 4) return
    if (!held.does) {
      held.does = Math.abs(dy) > Math.abs(dx) && stop.changes.length > 0 ? 'scale' : 'move'
      beginGesture(editor, held.does === 'move' ? `Move a stop of ${response.name}` : `Scale a stop of ${response.name}`)
    }
    if (held.does === 'move')
      return updateGesture(editor, [edit(moveStop, { response: response.id, stop: stop.id, at: [valueAt(e.clientX)] })])
    const factor = Math.min(MOST, Math.max(0, 1 - dy / PER_WHOLE))
    setStrength(factor)
    updateGesture(editor, [scaledStop(response, held.stop, factor)])
  }
  const end = (kept: boolean): void => {
    if (drag.current?.does) endGesture(editor, kept)
    else if (kept && drag.current) take(editor, response, stop.at)
    drag.current = null
    setStrength(null)
  }
  return (
    <StopMenu response={response} stop={stop}>
      <button
        type="button"
        aria-label={`Stop at ${label}`}
        title="Click to go there, double-click to record it again, drag along the cord to move it, up or down to make it stronger or weaker"
        className={`group absolute top-1.5 flex -translate-x-1/2 flex-col items-center gap-0.5 ${GRIP}`}
        style={{ left: `${left}%` }}
        onPointerDown={(e) => {
          if (e.button !== 0 || recordingNow(editor)) return
          grip(e)
          drag.current = { x: e.clientX, y: e.clientY, does: null, stop }
        }}
        onPointerMove={move}
        onPointerUp={() => end(true)}
        onPointerCancel={() => end(false)}
        onDoubleClick={() => void recordAgain(editor, response, stop)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') recordAgain(editor, response, stop)
        }}
      >
        <i
          className={`mb-0.5 size-[18px] rounded-full border-[2.5px] ${isOn ? 'border-cord bg-cord' : 'border-ink bg-panel group-hover:border-cord'}`}
        />
        <StopPicture response={response} at={stop.at} on={isOn} />
        <span className={`num text-xs ${isOn || strength !== null ? 'font-semibold text-cord' : ''}`}>
          {strength === null ? label : `${Math.round(strength * 100)}%`}
        </span>
      </button>
    </StopMenu>
  )
}

/** Two inputs: a plane with a picture at each stop; a correction lists the place where it was recorded. */
function Plane({ response }: { response: Response }) {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const recording = useRecording((s) => s.recording)
  const now = usePuppet(() => inputsNow(posedFrame(editor), response).join(' '))
    .split(' ')
    .map(Number)
  const rest = response.inputs.map((input) => restOfInput(puppet, input, channelOf) ?? 0)
  const isFree =
    !response.stops.some((s) => s.at.every((v, k) => Math.abs(v - nth(now, k)) < 1e-6)) &&
    now.some((v, k) => Math.abs(v - nth(rest, k)) > 1e-6)
  return (
    <div
      className="scroll-thin flex items-center gap-3 overflow-x-auto py-2.5 pr-9 pl-4"
      role="group"
      aria-label={`Stops of ${response.name}`}
    >
      <div className="flex-none text-xs">
        {response.inputs.map((input, k) => (
          <p key={k} className="whitespace-nowrap">
            <span className="text-quiet">{inputWords(puppet, input)}</span> <span className="num">{shortNumber(nth(now, k))}</span>
          </p>
        ))}
      </div>
      {isFree && !recording && response.kind === 'pad' && (
        <button
          type="button"
          className="flex h-8 flex-none items-center gap-1.5 rounded-full bg-[var(--record)] px-3 text-xs font-semibold text-[var(--on-record)]"
          onClick={() => take(editor, response, now)}
        >
          Record here
        </button>
      )}
      {[...response.stops]
        .sort((a, b) => (b.at[1] ?? 0) - (a.at[1] ?? 0) || nth(a.at, 0) - nth(b.at, 0))
        .map((stop) => (
          <StopMenu key={stop.id} response={response} stop={stop}>
            <button
              type="button"
              aria-label={`Stop at ${stop.at.map(shortNumber).join(', ')}`}
              title="Click to go there, double-click to record it again"
              className="group flex flex-none flex-col items-center gap-0.5"
              onClick={() => take(editor, response, stop.at)}
              onDoubleClick={() => void recordAgain(editor, response, stop)}
            >
              <StopPicture response={response} at={stop.at} on={recording?.stop === stop.id} size={52} />
              <span className="num text-[11px]">{stop.at.map(shortNumber).join(', ')}</span>
            </button>
          </StopMenu>
        ))}
    </div>
  )
}
