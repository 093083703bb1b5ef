/** A box round chosen keys: its sides are dragged to stretch them in time, its upper and lower edge to stretch their values. */
import { useState, type PointerEvent } from 'react'
import { moveKeys } from '@marionette/core/clips/keyCommands'
import { isSameTime } from '@marionette/core/clips/lookup'
import type { TimeScale, ValueScale } from '@marionette/core/clips/graph'
import type { Clip, ClipLayer } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, updateGesture } from '../../editor/document'
import { grip, GRIP } from '../../ui/grip'
import { setActing, toFrame, useActing, type ChosenKey } from './acting'
import { useEscape } from './useEscape'

type Side = 'before' | 'after' | 'above' | 'below'

interface ScaleBoxProps {
  readonly clip: Clip
  readonly layer: ClipLayer
  readonly scale: TimeScale
  /** Of the graph of curves; in rows of keys values are not seen. */
  readonly values?: ValueScale | undefined
}

interface Extent {
  readonly from: number
  readonly to: number
  readonly low: number
  readonly high: number
}

/** How far beside the keys the sides of the box stand, px. */
const BESIDE = 11
/** A box keeps at least this share of its size. */
const LEAST = 0.02

/** Times and values that chosen keys span; null where they lie on one spot. */
function extentOf(layer: ClipLayer, chosen: readonly ChosenKey[]): Extent | null {
  let [from, to, low, high] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const { channel, time } of chosen) {
    const key = layer.tracks[channel]?.keys.find((one) => isSameTime(one.time, time))
    if (!key) continue
    ;[from, to] = [Math.min(from, key.time), Math.max(to, key.time)]
    ;[low, high] = [Math.min(low, key.value), Math.max(high, key.value)]
  }
  return to > from || high > low ? { from, to, low, high } : null
}

interface Drag {
  readonly side: Side
  readonly x: number
  readonly y: number
  readonly box: Extent
  readonly keys: readonly ChosenKey[]
  /** Values as they stood on the screen: the graph may make room for what is stretched. */
  readonly values: ValueScale | undefined
  readonly hasMoved: boolean
}

export function ScaleBox({ clip, layer, scale, values }: ScaleBoxProps) {
  const editor = useEditor()
  const keys = useActing((s) => s.keys)
  const [drag, setDrag] = useState<Drag | null>(null)
  const end = (isKept: boolean): void => {
    if (drag?.hasMoved) endGesture(editor, isKept)
    if (drag?.hasMoved && !isKept) setActing(editor, { keys: drag.keys })
    setDrag(null)
  }
  useEscape(drag !== null, () => end(false))
  const box = extentOf(layer, keys)
  if (!box || keys.length < 2) return null
  const press =
    (side: Side) =>
    (e: PointerEvent<HTMLElement>): void => {
      if (e.button !== 0) return
      e.stopPropagation()
      grip(e)
      setDrag({ side, x: e.clientX, y: e.clientY, box, keys, values, hasMoved: false })
    }
  const move = (e: PointerEvent): void => {
    if (!drag) return
    const [dx, dy] = [e.clientX - drag.x, e.clientY - drag.y]
    if (!drag.hasMoved) {
      if (Math.hypot(dx, dy) < 3) return
      beginGesture(editor, 'Stretch keys')
      setDrag({ ...drag, hasMoved: true })
    }
    const stretch = stretched(drag, clip, dx / scale.perSecond, drag.values ? drag.values.value(dy) - drag.values.value(0) : 0)
    updateGesture(editor, [edit(moveKeys, { clip: clip.id, layer: layer.id, keys: [...drag.keys], ...stretch })])
    const { about, by } = stretch.seconds
    setActing(editor, { keys: drag.keys.map(({ channel, time }) => ({ channel, time: Math.max(0, about + (time - about) * by) })) })
  }
  const drags = { onPointerMove: move, onPointerUp: () => end(true), onPointerCancel: () => end(false) }
  const [left, right] = [scale.x(box.from) - BESIDE, scale.x(box.to) + BESIDE]
  const [top, bottom] = values ? [values.y(box.high) - BESIDE, values.y(box.low) + BESIDE] : [null, null]
  const common = `absolute z-[5] ${GRIP}`
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      {box.to > box.from &&
        [['before', left] as const, ['after', right] as const].map(([side, x]) => (
          <i
            key={side}
            data-stretch={side}
            title="Drag to stretch the chosen keys in time"
            className={`${common} pointer-events-auto inset-y-0 w-2 -translate-x-1/2 cursor-ew-resize`}
            style={{ left: x }}
            onPointerDown={press(side)}
            {...drags}
          >
            <i
              className={`absolute inset-y-1 left-1/2 w-1 -translate-x-1/2 border-y-2 border-cord ${side === 'before' ? 'border-l-2' : 'border-r-2'}`}
            />
          </i>
        ))}
      {top !== null &&
        box.high > box.low &&
        [['above', top] as const, ['below', bottom] as const].map(([side, y]) => (
          <i
            key={side}
            data-stretch={side}
            title="Drag to stretch the values of the chosen keys"
            className={`${common} pointer-events-auto h-2 -translate-y-1/2 cursor-ns-resize`}
            style={{ top: y, left, width: right - left }}
            onPointerDown={press(side)}
            {...drags}
          >
            <i
              className={`absolute inset-x-1 top-1/2 h-1 -translate-y-1/2 border-x-2 border-cord ${side === 'above' ? 'border-t-2' : 'border-b-2'}`}
            />
          </i>
        ))}
    </div>
  )
}

/** What a drag of a side makes of times and values: the other side stays where it is. */
function stretched({ side, box }: Drag, clip: Clip, seconds: number, value: number) {
  const still = { about: 0, by: 1, shift: 0 }
  const factor = (size: number, by: number): number => Math.max(LEAST, (size + by) / size)
  if (side === 'after' || side === 'before') {
    const isAfter = side === 'after'
    const about = isAfter ? box.from : box.to
    const at = toFrame(clip, Math.max(0, (isAfter ? box.to : box.from) + seconds))
    return { seconds: { about, by: factor(box.to - box.from, isAfter ? at - box.to : box.from - at), shift: 0 }, value: still }
  }
  const isAbove = side === 'above'
  return {
    seconds: still,
    value: { about: isAbove ? box.low : box.high, by: factor(box.high - box.low, isAbove ? value : -value), shift: 0 },
  }
}
