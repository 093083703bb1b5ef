/** Frames and seconds over the timeline. A press or a drag looks at another moment. */
import { useState, type PointerEvent } from 'react'
import { setMarker } from '@marionette/core/clips/commands'
import type { TimeScale } from '@marionette/core/clips/graph'
import type { Clip } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { useEditor } from '../../editor/editor'
import { perform } from '../../editor/document'
import { grip, GRIP } from '../../ui/grip'
import { showMoment, toFrame } from './acting'
import { MarkerFlag } from './MarkerFlag'
import { scrub, stopClip } from './playing'
import { useSheet, type Pen } from './pen'
import { rulerStep, useTimeScale } from './timeScale'

export const RULER_HEIGHT = 24

export function Ruler({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const scale = useTimeScale(clip)
  const [isHeld, setHeld] = useState(false)
  const step = rulerStep(scale, clip.rate)
  const canvas = useSheet(({ pen, width, height, colour }) => {
    pen.clearRect(0, 0, width, height)
    const { range } = clip
    if (range) {
      pen.fillStyle = colour('--tint')
      pen.fillRect(scale.x(range.from), 0, scale.x(range.to) - scale.x(range.from), height)
    }
    drawBeats(pen, clip, scale, height, colour('--brass'))
    pen.strokeStyle = colour('--twine')
    pen.lineWidth = 1
    pen.beginPath()
    const minor = step >= 4 && step % 4 === 0 ? step / 4 : step
    for (let frame = 0; frame <= Math.round(clip.length * clip.rate); frame += minor) {
      const x = Math.round(scale.x(frame / clip.rate)) + 0.5
      if (x < 0 || x > width) continue
      pen.moveTo(x, height - (frame % step === 0 ? 7 : 3))
      pen.lineTo(x, height)
    }
    pen.stroke()
  })
  const look = (e: PointerEvent): void => {
    const frame = e.currentTarget.getBoundingClientRect()
    const time = Math.min(clip.length, Math.max(0, toFrame(clip, scale.time(e.clientX - frame.left))))
    scrub(editor, clip, time)
  }
  const end = (): void => {
    if (!isHeld) return
    setHeld(false)
    showMoment(editor)
  }
  const marks = []
  for (let frame = 0; frame <= Math.round(clip.length * clip.rate); frame += step) {
    const x = scale.x(frame / clip.rate)
    if (x >= -8 && x <= scale.width + 8) marks.push({ frame, x })
  }
  return (
    <div
      className={`relative h-full min-w-0 flex-1 cursor-ew-resize overflow-hidden ${GRIP}`}
      role="group"
      aria-label="Moment"
      data-testid="ruler"
      onPointerDown={(e) => {
        if (e.button !== 0) return
        grip(e)
        stopClip(editor)
        setHeld(true)
        look(e)
      }}
      onPointerMove={(e) => isHeld && look(e)}
      onPointerUp={end}
      onPointerCancel={end}
      onDoubleClick={(e) => {
        const frame = e.currentTarget.getBoundingClientRect()
        const time = toFrame(clip, Math.min(clip.length, Math.max(0, scale.time(e.clientX - frame.left))))
        perform(editor, [edit(setMarker, { clip: clip.id, marker: { id: freshId('marker'), time, note: 'Marker' } })], 'Add marker')
      }}
    >
      <canvas ref={canvas} aria-hidden className="absolute inset-0 h-full w-full" />
      {marks.map(({ frame, x }) => (
        <span key={frame} data-mark={x} className="num pointer-events-none absolute top-0 -translate-x-1/2 text-quiet" style={{ left: x }}>
          {frame % clip.rate === 0 && frame > 0 ? `${frame / clip.rate} s` : frame}
        </span>
      ))}
      {clip.markers.map((marker) => (
        <MarkerFlag key={marker.id} clip={clip} marker={marker} x={scale.x(marker.time)} />
      ))}
    </div>
  )
}

/** How near to each other beats are drawn, px: farther away every second, fourth or eighth of them shows. */
const CLEAR = 7

/** Beats as small diamonds along the lower edge, each fourth of them larger. */
function drawBeats(pen: Pen, { tempo, length }: Clip, scale: TimeScale, height: number, colour: string): void {
  if (!tempo) return
  const beat = 60 / tempo.perMinute
  const step = [1, 2, 4, 8, 16].find((every) => every * beat * scale.perSecond >= CLEAR) ?? 32
  pen.fillStyle = colour
  for (let k = 0; tempo.first + k * beat <= length; k += step) {
    const x = scale.x(tempo.first + k * beat)
    if (x < -4 || x > scale.width + 4) continue
    const size = k % 4 === 0 ? 4 : 2.5
    const y = height - 4
    pen.beginPath()
    pen.moveTo(x, y - size)
    pen.lineTo(x + size, y)
    pen.lineTo(x, y + size)
    pen.lineTo(x - size, y)
    pen.fill()
  }
}
