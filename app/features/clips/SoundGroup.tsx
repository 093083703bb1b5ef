/** Sounds of the clip: brought in, recorded, and the chosen one in numbers. */
import { AudioLines, Mic, Plus, Square } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { Clip, SoundPiece } from '@marionette/core/clips/records'
import { setSound } from '@marionette/core/clips/soundCommands'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { perform } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { FileButton } from '../../ui/FileButton'
import { Listening } from '../../ui/Listening'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { useActing } from './acting'
import {
  cancelListening,
  endRecording,
  importSound,
  record,
  recordingLevel,
  removeSound,
  speakSound,
  splitChosenSound,
  useSounding,
} from './sounds'

/** What browsers are asked to offer. */
export const SOUND_FILES = '.wav,.mp3,.m4a,.ogg,.oga,.opus,.flac,audio/*'

export function SoundGroup({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const busy = useSounding((s) => s.busy)
  const heard = useSounding((s) => s.heard)
  const chosen = useActing((s) => s.sound)
  const piece = clip.sounds.find(({ id }) => id === chosen)
  return (
    <Group id="clip-sound" title="Sound" aside={clip.sounds.length > 0 ? <span className="cap">{clip.sounds.length}</span> : undefined}>
      {busy === 'recording' ? (
        <Recording />
      ) : (
        <div className="flex flex-wrap gap-1.5">
          <FileButton small accept={SOUND_FILES} testId="sound-file" onFiles={([file]) => file && void importSound(editor, file)}>
            <Plus size={12} /> {busy === 'reading' ? 'Reading…' : 'Sound file…'}
          </FileButton>
          <Button small disabled={busy !== null} onClick={() => void record(editor)}>
            <Mic size={13} /> Record
          </Button>
        </div>
      )}
      {heard !== null && <Listening heard={heard} onCancel={() => cancelListening(editor)} />}
      {piece ? (
        <PieceNumbers clip={clip} piece={piece} />
      ) : (
        <p className="cap mt-1.5">
          {clip.sounds.length > 0
            ? 'Press a sound on the timeline to change it.'
            : 'Sounds are heard while the clip plays and while its moments are looked for.'}
        </p>
      )}
    </Group>
  )
}

/** While the microphone is open: how loud it is, for how long, and how to end it. */
function Recording() {
  const editor = useEditor()
  const bar = useRef<HTMLElement>(null)
  const [seconds, setSeconds] = useState(0)
  useEffect(() => {
    const begun = performance.now()
    let request = 0
    const look = (): void => {
      if (bar.current) bar.current.style.width = `${Math.min(100, Math.round(140 * recordingLevel(editor)))}%`
      setSeconds(Math.floor((performance.now() - begun) / 1000))
      request = requestAnimationFrame(look)
    }
    look()
    return () => cancelAnimationFrame(request)
  }, [editor])
  return (
    <div className="flex items-center gap-2" role="status">
      <i className="size-2.5 flex-none rounded-full bg-cord" />
      <span className="num w-8">{seconds} s</span>
      <span className="h-1.5 min-w-0 flex-1 overflow-hidden rounded-full bg-tint">
        <i ref={bar} className="block h-full bg-verdigris" />
      </span>
      <Button small onClick={() => void endRecording(editor)}>
        <Square size={10} fill="currentColor" /> Stop
      </Button>
    </div>
  )
}

function PieceNumbers({ clip, piece }: { clip: Clip; piece: SoundPiece }) {
  const editor = useEditor()
  const set = (given: Partial<Pick<SoundPiece, 'name' | 'at' | 'from' | 'length' | 'volume'>>, label: string): boolean =>
    perform(editor, [edit(setSound, { clip: clip.id, sound: piece.id, ...given })], label)
  const heard = useSounding((s) => s.heard)
  const isSaid = clip.layers.some((layer) => layer.spoken?.sound === piece.id)
  return (
    <div className="mt-2">
      <NameInput label="Name of the sound" name={piece.name} onRename={(name) => set({ name }, 'Rename sound')} />
      <NumberField
        label="Starts at"
        value={piece.at}
        unit="s"
        min={0}
        digits={2}
        step={0.05}
        onChange={(v) => v !== null && set({ at: v }, 'Move sound')}
      />
      <NumberField
        label="Offset"
        value={piece.from}
        unit="s"
        rest={0}
        min={0}
        max={piece.duration - 0.02}
        digits={2}
        step={0.05}
        onChange={(v) => v !== null && set({ from: v, length: Math.min(piece.length, piece.duration - v) }, 'Offset of sound')}
      />
      <NumberField
        label="Length"
        value={piece.length}
        unit="s"
        min={0.02}
        max={piece.duration - piece.from}
        digits={2}
        step={0.05}
        onChange={(v) => v !== null && set({ length: v }, 'Length of sound')}
      />
      <NumberField
        label="Volume"
        value={Math.round(piece.volume * 100)}
        unit="%"
        rest={100}
        min={0}
        max={200}
        digits={0}
        onChange={(v) => v !== null && set({ volume: v / 100 }, 'Volume of sound')}
      />
      <p className="cap mb-1.5">The offset is what is left out at its beginning.</p>
      <div className="flex flex-wrap gap-1.5">
        <Button small disabled={heard !== null} onClick={() => void speakSound(editor, piece.id)}>
          <AudioLines size={13} /> {isSaid ? 'Lip sync anew' : 'Lip sync'}
        </Button>
        <Button small onClick={() => splitChosenSound(editor)}>
          Split here
        </Button>
        <Button small onClick={() => removeSound(editor, piece.id)}>
          Delete
        </Button>
      </div>
    </div>
  )
}
