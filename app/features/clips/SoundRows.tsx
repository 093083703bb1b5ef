/** Sounds along the timeline: their outlines, where they are heard. They are dragged as a whole, or at an end. */
import { useRef, type PointerEvent } from 'react'
import { Volume2, VolumeX } from 'lucide-react'
import type { Clip, SoundPiece } from '@marionette/core/clips/records'
import { moveSpokenEdits } from '@marionette/core/playing/mouthShapes'
import { setSound } from '@marionette/core/clips/soundCommands'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { nth, sure } from '@marionette/core/kernel/sure'
import { peakBetween } from '@marionette/core/maths/signal/peaks'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, perform, updateGesture } from '../../editor/document'
import { useOutline } from '../../sound/decoded'
import { grip, GRIP } from '../../ui/grip'
import { setActing, toFrame, useActing } from './acting'
import { useSheet } from './pen'
import { lanesOf, SOUND_ROW, soundRowsHeight } from './soundLanes'
import { draggedSound, removeSound, type SoundGrip } from './sounds'
import type { TimeScale } from '@marionette/core/clips/graph'
import { useTimeScale } from './timeScale'
import { useEscape } from './useEscape'
import { useState } from 'react'

export default function SoundRows({ clip }: { clip: Clip }) {
  const scale = useTimeScale(clip)
  const lanes = lanesOf(clip.sounds)
  // Always in one order on the page: what is moved within it would be let go of by the mouse.
  const standing = clip.sounds.map((piece, k) => ({ piece, lane: nth(lanes, k) })).sort((a, b) => (a.piece.id < b.piece.id ? -1 : 1))
  return (
    <div className="flex flex-none" style={{ height: soundRowsHeight(clip) }}>
      <span className="flex w-[176px] flex-none items-center gap-2 self-start pl-2 text-xs font-semibold" style={{ height: SOUND_ROW }}>
        Sound <span className="num font-normal text-quiet">{clip.sounds.length}</span>
      </span>
      <div className="scroll-thin relative min-w-0 flex-1 overflow-x-hidden overflow-y-auto" role="list" aria-label="Sounds">
        {standing.map(({ piece, lane }) => (
          <Piece key={piece.id} clip={clip} piece={piece} scale={scale} lane={lane} />
        ))}
      </div>
    </div>
  )
}

interface PieceProps {
  readonly clip: Clip
  readonly piece: SoundPiece
  readonly scale: TimeScale
  readonly lane: number
}

interface Drag {
  readonly x: number
  readonly grip: SoundGrip
  readonly clip: Clip
  readonly piece: SoundPiece
  readonly hasMoved: boolean
}

function Piece({ clip, piece, scale, lane }: PieceProps) {
  const editor = useEditor()
  const isOn = useActing((s) => s.sound === piece.id)
  const outline = useOutline(piece.asset)
  const [drag, setDrag] = useState<Drag | null>(null)
  const canvas = useOutlineSheet(piece, outline)
  const end = (isKept: boolean): void => {
    if (drag?.hasMoved) endGesture(editor, isKept)
    setDrag(null)
  }
  useEscape(drag !== null, () => end(false))
  const press =
    (held: SoundGrip) =>
    (e: PointerEvent<HTMLElement>): void => {
      if (e.button !== 0) return
      e.stopPropagation()
      grip(e)
      setActing(editor, { sound: piece.id, keys: [], pose: null })
      setDrag({ x: e.clientX, grip: held, clip, piece, hasMoved: false })
    }
  const move = (e: PointerEvent): void => {
    if (!drag) return
    if (!drag.hasMoved) {
      if (Math.abs(e.clientX - drag.x) < 3) return
      beginGesture(editor, drag.grip === 'all' ? `Move ${piece.name}` : `Trim ${piece.name}`)
      setDrag({ ...drag, hasMoved: true })
    }
    updateGesture(editor, dragEdits(drag, (e.clientX - drag.x) / scale.perSecond))
  }
  const nudge = (frames: number): void =>
    void perform(editor, dragEdits({ clip, piece, grip: 'all' }, frames / clip.rate), `Move ${piece.name}`)
  const drags = { onPointerMove: move, onPointerUp: () => end(true), onPointerCancel: () => end(false) }
  const width = Math.max(6, piece.length * scale.perSecond)
  return (
    <div
      role="listitem"
      aria-label={piece.name}
      aria-current={isOn}
      tabIndex={0}
      data-sound={piece.id}
      className={`group absolute cursor-grab overflow-hidden rounded-md ${isOn ? 'bg-tint outline-2 -outline-offset-2 outline-cord' : 'bg-tint'} ${piece.muted ? 'opacity-45' : ''} ${GRIP}`}
      style={{ left: scale.x(piece.at), width, top: lane * SOUND_ROW + 2, height: SOUND_ROW - 4 }}
      onPointerDown={press('all')}
      {...drags}
      // What has the focus is what keys mean.
      onFocus={() => setActing(editor, { sound: piece.id, keys: [], pose: null })}
      onKeyDown={(e) => {
        if (e.key === 'Delete' || e.key === 'Backspace') removeSound(editor, piece.id)
        else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') nudge(e.key === 'ArrowLeft' ? -1 : 1)
        else return
        e.preventDefault()
        e.stopPropagation()
      }}
    >
      <canvas ref={canvas} aria-hidden className="absolute inset-0 size-full" />
      <span className="pointer-events-none absolute top-0 left-1.5 max-w-full truncate pr-2 text-[11px]/4 text-ink [text-shadow:0_0_3px_var(--panel),0_0_3px_var(--panel)]">
        {outline === null ? `${piece.name}: cannot be read` : piece.name}
      </span>
      {(['start', 'end'] as const).map((side) => (
        <i
          key={side}
          data-grip={side}
          className={`absolute inset-y-0 w-2 cursor-ew-resize opacity-0 group-hover:opacity-100 ${side === 'start' ? 'left-0 rounded-l-md' : 'right-0 rounded-r-md'} bg-cord/30 ${GRIP}`}
          onPointerDown={press(side)}
          {...drags}
        />
      ))}
      {width > 70 && (
        <button
          type="button"
          aria-label={piece.muted ? `Hear ${piece.name}` : `Silence ${piece.name}`}
          className="absolute right-2.5 bottom-0.5 grid size-4 place-items-center rounded bg-panel/70 text-quiet hover:text-ink"
          onPointerDown={(e) => e.stopPropagation()}
          onClick={() => perform(editor, [edit(setSound, { clip: clip.id, sound: piece.id, muted: !piece.muted })], 'Sound on or off')}
        >
          {piece.muted ? <VolumeX size={11} /> : <Volume2 size={11} />}
        </button>
      )}
    </div>
  )
}

/** A sound that a line is heard with takes the line along. */
function dragEdits({ clip, piece, grip }: Pick<Drag, 'clip' | 'piece' | 'grip'>, by: number): Edit[] {
  const line = grip === 'all' ? clip.layers.find((layer) => layer.spoken?.sound === piece.id) : undefined
  if (!line?.spoken) return [draggedSound(clip, piece, grip, by)]
  return moveSpokenEdits(clip, line, toFrame(clip, Math.max(0, piece.at + by)) - piece.at)
}

function useOutlineSheet(piece: SoundPiece, outline: ReturnType<typeof useOutline>) {
  const extremes = useRef(new Float32Array(2))
  return useSheet(({ pen, width, height, colour }) => {
    pen.clearRect(0, 0, width, height)
    if (!outline) return
    pen.fillStyle = colour('--verdigris')
    pen.globalAlpha = 0.75
    const middle = height / 2
    // Loud enough to be seen, and no louder than it is.
    const scale = middle * Math.min(1, piece.volume)
    for (let x = 0; x < width; x++) {
      const from = piece.from + (piece.length * x) / width
      peakBetween(outline, from, from + piece.length / width, extremes.current)
      const [low, high] = [sure(extremes.current[0]), sure(extremes.current[1])]
      pen.fillRect(x, middle - high * scale, 1, Math.max(1, (high - low) * scale))
    }
    pen.globalAlpha = 1
  })
}
