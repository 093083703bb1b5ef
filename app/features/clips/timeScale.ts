/** Where times stand across the timeline. */
import { useCallback } from 'react'
import type { TimeScale } from '@marionette/core/clips/graph'
import type { Clip } from '@marionette/core/clips/records'
import { editorStore, useEditor } from '../../editor/editor'

/** Room before the beginning and after the end, px. */
const MARGIN = 28

interface ScaleState {
  /** Width of the lanes, px. */
  readonly width: number
  /** How many times nearer than the whole clip. */
  readonly zoom: number
  /** The time at the left edge of what can be scrolled to, as a share of that. */
  readonly from: number
}

export const useScale = editorStore<ScaleState>(() => ({ width: 800, zoom: 1, from: 0 }))

/** The scale on which a clip of a length fits the width, or is so many times nearer. */
export function scaleOf({ width, zoom, from }: ScaleState, { length }: Pick<Clip, 'length'>): TimeScale {
  const perSecond = (zoom * Math.max(1, width - 2 * MARGIN)) / length
  const shift = MARGIN - from * length * perSecond
  return {
    width,
    perSecond,
    x: (time) => shift + time * perSecond,
    time: (x) => (x - shift) / perSecond,
  }
}

/** Zooms about a place, in px; scrolls by px. What is seen stays within the clip. */
export function zoomed(state: ScaleState, clip: Pick<Clip, 'length'>, factor: number, at: number, scroll: number): ScaleState {
  const before = scaleOf(state, clip)
  const fixed = before.time(at)
  const zoom = Math.min(200, Math.max(1, state.zoom * factor))
  const near = scaleOf({ ...state, zoom, from: 0 }, clip)
  const from = (near.x(fixed) - at + scroll) / (clip.length * near.perSecond)
  return { ...state, zoom, from: Math.min(1 - 1 / zoom, Math.max(0, from)) }
}

/** Steps between the marks of a ruler, frames: each a clear count of frames or seconds, with room for its figure. */
export function rulerStep({ perSecond }: Pick<TimeScale, 'perSecond'>, rate: number): number {
  const room = 56
  const steps = [1, 2, 5, rate / 4, rate / 2, rate, 2 * rate, 5 * rate, 10 * rate, 30 * rate, 60 * rate].map((s) =>
    Math.max(1, Math.round(s)),
  )
  return steps.find((frames) => (frames / rate) * perSecond >= room) ?? Math.round(60 * rate)
}

/** The scale of the open clip. */
export function useTimeScale(clip: Pick<Clip, 'length'>): TimeScale {
  const state = useScale()
  return scaleOf(state, clip)
}

/** Wheel over the timeline: with Ctrl it zooms, sideways or with Shift it scrolls. */
export function useTimeWheel(clip: Pick<Clip, 'length'>): (e: WheelEvent, left: number) => void {
  const editor = useEditor()
  const { length } = clip
  return useCallback(
    (e, left) => {
      const sideways = e.shiftKey ? e.deltaY : e.deltaX
      const isZoom = e.ctrlKey || e.metaKey
      if (!isZoom && Math.abs(sideways) <= Math.abs(e.deltaY) && !e.shiftKey) return
      e.preventDefault()
      const factor = isZoom ? Math.exp(-e.deltaY / 300) : 1
      useScale.of(editor).setState((s) => zoomed(s, { length }, factor, e.clientX - left, isZoom ? 0 : sideways))
    },
    [editor, length],
  )
}
