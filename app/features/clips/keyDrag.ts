/** Dragging in the lanes: keys are chosen, drawn round, moved with what else is chosen, and set by a double click. */
import { useState, type MouseEvent, type PointerEvent } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { moveKeys, setKeys } from '@marionette/core/clips/keyCommands'
import { valueAtTime } from '@marionette/core/clips/curve'
import type { Clip, ClipLayer } from '@marionette/core/clips/records'
import { useEditor, type Editor } from '../../editor/editor'
import { beginGesture, cancelGesture, commitGesture, perform, updateGesture } from '../../editor/document'
import { selectBones, selectParts } from '../../editor/session'
import { grip } from '../../ui/grip'
import { setActing, toFrame, useActing, type ChosenKey } from './acting'
import { chosenSet, isChosen } from './drawLanes'
import { ROW, type TimelineRow } from './rows'
import type { TimeScale } from '@marionette/core/clips/graph'
import { useEscape } from './useEscape'

/** Reach of a key under the pointer, px. */
const REACH = 7

type Drag =
  | { readonly at: 'pointing'; readonly key: ChosenKey; readonly x: number; readonly keys: readonly ChosenKey[] }
  | { readonly at: 'moving'; readonly key: ChosenKey; readonly x: number; readonly keys: readonly ChosenKey[] }
  | {
      readonly at: 'boxing'
      readonly x0: number
      readonly y0: number
      readonly x1: number
      readonly y1: number
      readonly before: readonly ChosenKey[]
    }

/** Keys of a row at a place across it. */
function keysUnder(row: TimelineRow, x: number, scale: TimeScale): ChosenKey[] {
  const isNear = (time: number): boolean => Math.abs(scale.x(time) - x) <= REACH
  if (row.kind === 'group') return row.keys.filter(({ time }) => isNear(time))
  const near = row.keys.filter(({ time }) => isNear(time)).sort((a, b) => Math.abs(scale.x(a.time) - x) - Math.abs(scale.x(b.time) - x))
  return near.slice(0, 1).map(({ time }) => ({ channel: row.id, time }))
}

const isSame = (a: ChosenKey, b: ChosenKey): boolean => a.channel === b.channel && a.time === b.time

/** Keys inside a box drawn over the rows, px. */
function keysIn(rows: readonly TimelineRow[], scale: TimeScale, box: { x0: number; y0: number; x1: number; y1: number }): ChosenKey[] {
  const [left, right] = [Math.min(box.x0, box.x1), Math.max(box.x0, box.x1)]
  const [top, bottom] = [Math.min(box.y0, box.y1), Math.max(box.y0, box.y1)]
  return rows.flatMap((row, k): ChosenKey[] => {
    const y = k * ROW + ROW / 2
    if (y < top || y > bottom) return []
    const keys = row.kind === 'group' ? row.keys : row.keys.map(({ time }) => ({ channel: row.id, time }))
    return keys.filter(({ time }) => scale.x(time) >= left && scale.x(time) <= right)
  })
}

/** Selects what a channel belongs to, so that its details are at hand. */
export function selectOwner(editor: Editor, channel: string): void {
  const [family, id = ''] = channel.split('/')
  if (family === 'bone') selectBones(editor, id)
  else if (family === 'part') selectParts(editor, id)
}

interface Lane {
  readonly clip: Clip
  readonly layer: ClipLayer
  readonly rows: readonly TimelineRow[]
  readonly scale: TimeScale
  /** How far the rows are scrolled, px. */
  readonly top: number
}

/** What is chosen after a press on keys: with Shift or Ctrl they are added, or taken out again. */
function nextChosen(keys: readonly ChosenKey[], under: readonly ChosenKey[], isOn: boolean, isAdding: boolean): readonly ChosenKey[] {
  if (!isAdding) return isOn ? keys : under
  return isOn ? keys.filter((key) => !under.some((other) => isSame(key, other))) : [...keys, ...under]
}

/** Handlers of the lanes, and what is drawn round keys at the moment. */
export function useKeyDrag({ clip, layer, rows, scale, top }: Lane) {
  const editor = useEditor()
  const keys = useActing((s) => s.keys)
  const [drag, setDrag] = useState<Drag | null>(null)
  const place = { clip: clip.id, layer: layer.id }
  const at = (e: MouseEvent<HTMLElement>): { x: number; y: number; row: TimelineRow | undefined } => {
    const frame = e.currentTarget.getBoundingClientRect()
    const y = e.clientY - frame.top + top
    return { x: e.clientX - frame.left, y, row: rows[Math.floor(y / ROW)] }
  }
  const press = (e: PointerEvent<HTMLElement>): void => {
    if (e.button !== 0) return
    grip(e)
    const { x, y, row } = at(e)
    const under = row ? keysUnder(row, x, scale) : []
    const [first] = under
    const isAdding = e.shiftKey || e.ctrlKey || e.metaKey
    if (!first) return setDrag({ at: 'boxing', x0: x, y0: y, x1: x, y1: y, before: isAdding ? keys : [] })
    const chosen = chosenSet(keys)
    const isOn = under.every((key) => isChosen(chosen, key.channel, key.time))
    const next = nextChosen(keys, under, isOn, isAdding)
    setActing(editor, { keys: next, pose: null })
    selectOwner(editor, first.channel)
    setDrag({ at: 'pointing', key: first, x, keys: next })
  }
  const move = (e: PointerEvent<HTMLElement>): void => {
    if (!drag) return
    const { x, y } = at(e)
    if (drag.at === 'boxing') {
      const next = { ...drag, x1: x, y1: y }
      setDrag(next)
      return setActing(editor, { keys: [...drag.before, ...keysIn(rows, scale, next)], pose: null })
    }
    if (drag.at === 'pointing') {
      if (Math.abs(x - drag.x) < 4 || drag.keys.length === 0) return
      beginGesture(editor, drag.keys.length === 1 ? 'Move key' : 'Move keys')
      setDrag({ ...drag, at: 'moving' })
    }
    const wanted = toFrame(clip, drag.key.time + (x - drag.x) / scale.perSecond) - drag.key.time
    const shift = Math.max(-Math.min(...drag.keys.map((key) => key.time)), wanted)
    const seconds = { about: 0, by: 1, shift }
    updateGesture(editor, [edit(moveKeys, { ...place, keys: [...drag.keys], seconds, value: { about: 0, by: 1, shift: 0 } })])
    setActing(editor, { keys: drag.keys.map(({ channel, time }) => ({ channel, time: Math.max(0, time + shift) })) })
  }
  const end = (isKept: boolean): void => {
    if (drag?.at === 'moving') {
      if (isKept) commitGesture(editor)
      else {
        cancelGesture(editor)
        setActing(editor, { keys: drag.keys })
      }
    } else if (drag?.at === 'boxing' && drag.x0 === drag.x1 && drag.y0 === drag.y1 && drag.before.length === 0)
      setActing(editor, { keys: [], pose: null })
    setDrag(null)
  }
  useEscape(drag !== null, () => end(false))
  const setHere = (e: MouseEvent<HTMLElement>): void => {
    const { x, row } = at(e)
    const track = row && layer.tracks[row.id]
    if (row?.kind !== 'track' || !track || keysUnder(row, x, scale).length > 0) return
    const time = toFrame(clip, Math.min(clip.length, Math.max(0, scale.time(x))))
    perform(editor, [edit(setKeys, { ...place, keys: [{ channel: row.id, time, value: valueAtTime(track, time) }] })])
    setActing(editor, { keys: [{ channel: row.id, time }], pose: null })
  }
  const box = drag?.at === 'boxing' ? { x0: drag.x0, y0: drag.y0 - top, x1: drag.x1, y1: drag.y1 - top } : null
  return { box, press, move, end, setHere }
}
