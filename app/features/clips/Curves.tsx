/** The graph of the chosen channels: keys and their handles are dragged in time and value. */
import { useState, type PointerEvent } from 'react'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { handleTo } from '@marionette/core/clips/curve'
import { isSameTime } from '@marionette/core/clips/lookup'
import { moveKeys, setKeyHandles } from '@marionette/core/clips/keyCommands'
import type { Clip, ClipLayer, KeyHandle, Track } from '@marionette/core/clips/records'
import { nth, recordOf } from '@marionette/core/kernel/sure'
import { useEditor } from '../../editor/editor'
import { beginGesture, cancelGesture, commitGesture, updateGesture, useRestOf } from '../../editor/document'
import { grip, GRIP } from '../../ui/grip'
import { setActing, toFrame, useActing, type ChosenKey } from './acting'
import { chosenSet, drawKey, isChosen } from './drawLanes'
import { curvePoints, extent, handlePlaces, valueScale, type ValueScale } from '@marionette/core/clips/graph'
import { useSheet, type Sheet } from './pen'
import { placeOf } from './rows'
import { ScaleBox } from './ScaleBox'
import type { TimeScale } from '@marionette/core/clips/graph'
import { useTimeScale } from './timeScale'
import { useEscape } from './useEscape'

export const CURVES_HEIGHT = 124
const REACH = 8

interface Hit {
  readonly key: ChosenKey
  readonly side: 'key' | 'arrive' | 'leave'
}

interface Drag extends Hit {
  readonly x: number
  readonly y: number
  readonly value: number
  readonly keys: readonly ChosenKey[]
  readonly hasMoved: boolean
}

interface Shown {
  readonly channel: string
  readonly track: Track
  readonly colour: string
  readonly name: string
  readonly values: ValueScale
}

/** What of the shown curves is under the pointer: handles of chosen keys first, then keys. */
function hitAt(shown: readonly Shown[], chosen: ReadonlySet<string>, scale: TimeScale, x: number, y: number): Hit | null {
  const isNear = (p: { x: number; y: number } | null): boolean => p !== null && Math.hypot(p.x - x, p.y - y) <= REACH
  for (const { channel, track, values } of shown)
    for (let k = 0; k < track.keys.length; k++) {
      const { time } = nth(track.keys, k)
      if (!isChosen(chosen, channel, time)) continue
      const places = handlePlaces(track, k, scale, values)
      for (const side of ['arrive', 'leave'] as const) if (isNear(places[side])) return { key: { channel, time }, side }
    }
  for (const { channel, track, values } of shown)
    for (const { time, value } of track.keys)
      if (isNear({ x: scale.x(time), y: values.y(value) })) return { key: { channel, time }, side: 'key' }
  return null
}

/** The edit that puts a handle where the pointer is; aligned ones turn the one on the other side along. */
function handleEdit(clip: Clip, layer: ClipLayer, drag: Drag, time: number, value: number, isBroken: boolean): Edit | null {
  const { keys } = recordOf(layer.tracks, drag.key.channel)
  const at = keys.findIndex((key) => isSameTime(key.time, drag.key.time))
  const key = keys[at]
  if (!key || drag.side === 'key') return null
  const seconds = Math.max(0.001, drag.side === 'arrive' ? key.time - time : time - key.time)
  const moved: KeyHandle = [seconds, value - key.value]
  const otherSide = drag.side === 'arrive' ? 'leave' : 'arrive'
  const hasOther = otherSide === 'arrive' ? at > 0 : at + 1 < keys.length
  const other: KeyHandle = key.handles?.[otherSide] ?? (hasOther ? handleTo(keys, at, otherSide) : [seconds, 0])
  const aligned = (key.handles?.aligned ?? true) && !isBroken
  const turned: KeyHandle = aligned ? [other[0], (-moved[1] / moved[0]) * other[0]] : other
  const handles = drag.side === 'arrive' ? { arrive: moved, leave: turned, aligned } : { arrive: turned, leave: moved, aligned }
  return edit(setKeyHandles, { clip: clip.id, layer: layer.id, channel: drag.key.channel, time: key.time, handles })
}

export function Curves({ clip, layer }: { clip: Clip; layer: ClipLayer }) {
  const editor = useEditor()
  const scale = useTimeScale(clip)
  const keys = useActing((s) => s.keys)
  const isNormalised = useActing((s) => s.isNormalised)
  const puppet = useRestOf()
  const [drag, setDrag] = useState<Drag | null>(null)
  const [frozen, setFrozen] = useState<readonly ValueScale[] | null>(null)
  const chosen = chosenSet(keys)
  const kept = useActing((s) => s.curves)
  // Curves that were looked at stay beside those of what is chosen.
  const wanted = new Set(keys.map(({ channel }) => channel))
  const isPart = kept.length > 0 && [...wanted].every((channel) => kept.includes(channel))
  const channels = (isPart ? kept : [...wanted]).filter((channel) => layer.tracks[channel])
  const tracks = channels.map((channel) => recordOf(layer.tracks, channel))
  const common = extent(tracks)
  const shown: Shown[] = channels.map((channel, k) => {
    const track = nth(tracks, k)
    const own = isNormalised ? extent([track]) : common
    const { colour, name } = placeOf(puppet, channel, clip.layers)
    // While something is dragged the scale stays, or it would flee from the hand.
    return { channel, track, colour, name, values: frozen?.[k] ?? valueScale(own.min, own.max, CURVES_HEIGHT) }
  })
  const canvas = useSheet((sheet) => drawCurves(sheet, shown, scale, clip.length, chosen))
  useEscape(drag !== null, () => end(false))
  const at = (e: PointerEvent): { x: number; y: number } => {
    const frame = e.currentTarget.getBoundingClientRect()
    return { x: e.clientX - frame.left, y: e.clientY - frame.top }
  }
  const valuesOf = (channel: string): ValueScale => nth(shown, channels.indexOf(channel)).values
  const press = (e: PointerEvent<HTMLCanvasElement>): void => {
    if (e.button !== 0) return
    grip(e)
    const { x, y } = at(e)
    const hit = hitAt(shown, chosen, scale, x, y)
    if (!hit) return
    const isOn = isChosen(chosen, hit.key.channel, hit.key.time)
    const isAdding = e.shiftKey || e.ctrlKey || e.metaKey
    const next = isOn ? keys : isAdding ? [...keys, hit.key] : [hit.key]
    setActing(editor, { keys: next, pose: null, curves: channels })
    setFrozen(shown.map(({ values }) => values))
    setDrag({ ...hit, x, y, value: valuesOf(hit.key.channel).value(y), keys: next, hasMoved: false })
  }
  const move = (e: PointerEvent): void => {
    if (!drag) return
    const { x, y } = at(e)
    if (!drag.hasMoved) {
      if (Math.hypot(x - drag.x, y - drag.y) < 3) return
      beginGesture(editor, drag.side === 'key' ? 'Move keys' : 'Shape curve')
      setDrag({ ...drag, hasMoved: true })
    }
    const value = valuesOf(drag.key.channel).value(y)
    if (drag.side !== 'key') {
      const shaped = handleEdit(clip, layer, drag, scale.time(x), value, e.altKey)
      return updateGesture(editor, shaped ? [shaped] : [])
    }
    // With Shift a key keeps to the way in which it was moved further.
    const isAcross = Math.abs(x - drag.x) > Math.abs(y - drag.y)
    const shift = e.shiftKey && !isAcross ? 0 : toFrame(clip, drag.key.time + (x - drag.x) / scale.perSecond) - drag.key.time
    const by = Math.max(-Math.min(...drag.keys.map((key) => key.time)), shift)
    updateGesture(editor, [
      edit(moveKeys, {
        ...{ clip: clip.id, layer: layer.id, keys: [...drag.keys] },
        seconds: { about: 0, by: 1, shift: by },
        value: { about: 0, by: 1, shift: e.shiftKey && isAcross ? 0 : value - drag.value },
      }),
    ])
    setActing(editor, { keys: drag.keys.map(({ channel, time }) => ({ channel, time: time + by })) })
  }
  const end = (isKept: boolean): void => {
    if (drag?.hasMoved) {
      if (isKept) commitGesture(editor)
      else {
        cancelGesture(editor)
        setActing(editor, { keys: drag.keys })
      }
    }
    setDrag(null)
    setFrozen(null)
  }
  const [first] = shown
  return (
    <div className="flex flex-none border-b border-hair" style={{ height: CURVES_HEIGHT }} data-testid="curves">
      <ul aria-label="Curves" className="scroll-thin w-[176px] flex-none overflow-y-auto py-1 pl-2">
        {shown.map(({ channel, name, colour }) => (
          <li key={channel} className="flex h-5 items-center gap-2 text-xs">
            <i className="size-2 flex-none rounded-full" style={{ background: colour }} />
            <span className="truncate">{name}</span>
          </li>
        ))}
        {shown.length === 0 && <li className="cap pr-2">Choose keys or a channel below: its curve shows here.</li>}
      </ul>
      <div className="relative min-w-0 flex-1 rounded-lg bg-tint">
        <canvas
          ref={canvas}
          aria-label="Curve graph"
          className={`block h-full w-full ${GRIP}`}
          onPointerDown={press}
          onPointerMove={move}
          onPointerUp={() => end(true)}
          onPointerCancel={() => end(false)}
        />
        <ScaleBox clip={clip} layer={layer} scale={scale} values={isNormalised ? undefined : (frozen?.[0] ?? first?.values)} />
        {first && !isNormalised && (
          <>
            <Figure value={first.values.max} y={first.values.y(first.values.max)} />
            <Figure value={first.values.min} y={first.values.y(first.values.min)} />
          </>
        )}
      </div>
    </div>
  )
}

const Figure = ({ value, y }: { value: number; y: number }) => (
  <span className="num pointer-events-none absolute right-1.5 -translate-y-1/2 text-quiet" style={{ top: y }}>
    {Math.round(value * 100) / 100}
  </span>
)

function drawCurves(
  { pen, width, height, colour }: Sheet,
  shown: readonly Shown[],
  scale: TimeScale,
  length: number,
  chosen: ReadonlySet<string>,
) {
  pen.clearRect(0, 0, width, height)
  for (const { channel, track, values, colour: name } of shown) {
    const own = colour(name)
    const points = curvePoints(track, scale, values, length)
    pen.strokeStyle = own
    pen.lineWidth = 1.75
    pen.beginPath()
    for (let k = 0; k < points.length; k += 2) pen.lineTo(nth(points, k), nth(points, k + 1))
    pen.stroke()
    track.keys.forEach((key, k) => {
      const [x, y] = [scale.x(key.time), values.y(key.value)]
      const isOn = isChosen(chosen, channel, key.time)
      if (isOn) {
        const { arrive, leave } = handlePlaces(track, k, scale, values)
        pen.strokeStyle = colour('--cord')
        pen.fillStyle = colour('--panel')
        pen.lineWidth = 1.25
        for (const p of [arrive, leave]) {
          if (!p) continue
          pen.beginPath()
          pen.moveTo(x, y)
          pen.lineTo(p.x, p.y)
          pen.stroke()
          pen.beginPath()
          pen.rect(p.x - 3.5, p.y - 3.5, 7, 7)
          pen.fill()
          pen.stroke()
        }
      }
      drawKey(pen, x, y, key.way, isOn ? 5.5 : 4.5)
      pen.fillStyle = isOn ? colour('--cord') : own
      pen.fill()
    })
  }
}
