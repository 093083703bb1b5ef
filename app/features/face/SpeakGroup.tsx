/** A typed line or a recording, spoken on the puppet at once; its sounds on a strip, where they can be moved. */
import { AudioLines, Play, Square, Volume2, VolumeX, X } from 'lucide-react'
import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { VISEME_INFO } from '@marionette/core/speech/visemes'
import { canSpeak } from '@marionette/core/playing/playing'
import type { SpeechTrack } from '@marionette/core/speech/track'
import { Group } from '../../panels/Group'
import { usePuppet } from '../../editor/document'
import { cancelHearing, dropRecording, hearRecording, lookAt, moveCue, setAloud, setMood, speakOrStop, usePlaying } from './playing'
import { Button } from '../../ui/Button'
import { Listening } from '../../ui/Listening'
import { MouthSets } from './MouthSets'
import { useEditor } from '../../editor/editor'
import { grip, GRIP } from '../../ui/grip'
import { sure } from '@marionette/core/kernel/sure'

export function SpeakGroup() {
  const editor = useEditor()
  // The time changes with every picture, and is none of this.
  const line = usePlaying((s) => s.line)
  const track = usePlaying((s) => s.track)
  const isPlaying = usePlaying((s) => s.isPlaying)
  const isBusy = usePlaying((s) => s.isBusy)
  const recording = usePlaying((s) => s.recording)
  const [text, setText] = useState(line)
  const speaks = usePuppet(canSpeak)
  const speak = (): void => speakOrStop(editor, text)
  return (
    <Group id="speak" title="Try a line">
      <div className="flex h-10 items-center gap-2 rounded-full bg-tint pr-1 pl-4">
        {recording !== null ? (
          <Recording name={recording} />
        ) : (
          <input
            aria-label="Line to speak"
            className="min-w-0 flex-1 bg-transparent outline-none"
            value={text}
            maxLength={2000}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter') speak()
            }}
          />
        )}
        <button
          type="button"
          aria-label={isPlaying ? 'Stop speaking' : 'Speak'}
          disabled={isBusy || !speaks}
          onClick={speak}
          className="grid size-8 flex-none place-items-center rounded-full bg-ink text-panel disabled:opacity-40"
        >
          {isPlaying ? <Square size={12} fill="currentColor" /> : <Play size={14} fill="currentColor" />}
        </button>
      </div>
      {!speaks && <p className="cap mt-1.5">Nothing speaks yet: give alternates their mouth shapes, or build a mouth.</p>}
      {isBusy && <p className="cap mt-1.5">Looking the words up…</p>}
      <Sources />
      <Moods />
      {track && <Strip track={track} />}
    </Group>
  )
}

function Recording({ name }: { name: string }) {
  const editor = useEditor()
  return (
    <span className="flex min-w-0 flex-1 items-center gap-1.5">
      <AudioLines size={14} className="flex-none text-verdigris" />
      <span className="truncate" title={name}>
        {name}
      </span>
      <button
        type="button"
        aria-label="Put the recording away"
        title="Put the recording away"
        onClick={() => dropRecording(editor)}
        className="text-quiet"
      >
        <X size={14} />
      </button>
    </span>
  )
}

/** A recording to load, and whether a typed line is heard. */
function Sources() {
  const editor = useEditor()
  const heard = usePlaying((s) => s.heard)
  const isAloud = usePlaying((s) => s.isAloud)
  const isTyped = usePlaying((s) => s.recording === null)
  const picker = useRef<HTMLInputElement>(null)
  if (heard !== null) return <Listening heard={heard} onCancel={() => cancelHearing(editor)} />
  return (
    <div className="mt-2 flex items-center gap-1.5">
      <Button small onClick={() => sure(picker.current).click()}>
        <AudioLines size={13} /> Load a recording…
      </Button>
      {isTyped && (
        <Button small aria-pressed={isAloud} title="A simulated voice says typed lines" onClick={() => setAloud(editor, !isAloud)}>
          {isAloud ? <Volume2 size={13} /> : <VolumeX size={13} />} {isAloud ? 'Aloud' : 'Silent'}
        </Button>
      )}
      <input
        ref={picker}
        type="file"
        accept=".wav,audio/wav,audio/x-wav"
        aria-label="Recording of speech"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void hearRecording(editor, file)
        }}
      />
    </div>
  )
}

/** Sets of sounds by mood, to be changed while it speaks. */
function Moods() {
  const editor = useEditor()
  const mood = usePlaying((s) => s.mood)
  return <MouthSets mood={mood} onChange={(next) => setMood(editor, next)} />
}

/** Pixels for a second of speech. */
const SCALE = 260

function Strip({ track }: { track: SpeechTrack }) {
  const editor = useEditor()
  const head = useRef<HTMLElement>(null)
  const frame = useRef<HTMLDivElement>(null)
  const drag = useRef<number | null>(null)
  useEffect(
    () =>
      usePlaying.of(editor).subscribe(({ time }) => {
        if (!head.current) return
        head.current.style.opacity = time === null ? '0' : '1'
        head.current.style.transform = `translateX(${(time ?? 0) * SCALE}px)`
        const box = frame.current
        if (box && time !== null && (time * SCALE < box.scrollLeft || time * SCALE > box.scrollLeft + box.clientWidth - 30))
          box.scrollLeft = time * SCALE - 30
      }),
    [editor],
  )
  const timeAt = (e: PointerEvent): number => {
    const box = sure(frame.current)
    return (e.clientX - box.getBoundingClientRect().left + box.scrollLeft) / SCALE
  }
  return (
    <div
      ref={frame}
      role="group"
      aria-label="Mouth shapes of the line"
      className="scroll-thin relative mt-2.5 h-14 overflow-x-auto rounded-lg bg-tint"
      onPointerMove={(e) => drag.current !== null && moveCue(editor, drag.current, timeAt(e))}
      onPointerUp={() => (drag.current = null)}
    >
      <div className="relative h-full" style={{ width: track.duration * SCALE }} onClick={(e) => lookAt(editor, timeAt(e as never))}>
        {track.cues.map((cue, k) => {
          const until = track.cues[k + 1]?.at ?? track.duration
          const isRest = cue.viseme === 'rest'
          return (
            <span
              key={k}
              data-viseme={cue.viseme}
              className={`absolute top-1.5 bottom-1.5 border-l-2 text-[10px]/[14px] ${isRest ? 'border-hair' : cue.viseme === 'mbp' ? 'border-cord bg-cord-soft' : 'border-verdigris bg-panel'}`}
              style={{ left: cue.at * SCALE, width: (until - cue.at) * SCALE }}
            >
              <span className="block overflow-hidden pl-0.5">{isRest ? '' : VISEME_INFO[cue.viseme].label.split(' ')[0]}</span>
              {k > 0 && (
                <i
                  className={`absolute inset-y-0 -left-1 w-2.5 cursor-ew-resize ${GRIP}`}
                  title="Drag to move where it begins"
                  onPointerDown={(e) => {
                    drag.current = k
                    grip(e, sure(frame.current))
                    e.stopPropagation()
                  }}
                  onClick={(e) => e.stopPropagation()}
                />
              )}
            </span>
          )
        })}
        <i ref={head} className="pointer-events-none absolute inset-y-0 left-0 w-0.5 bg-ink opacity-0" />
      </div>
    </div>
  )
}
