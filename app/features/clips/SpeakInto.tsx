/** A typed line or a recording becomes keys of the mouth, in a layer of its own from the moment that is looked at. */
import { AudioLines } from 'lucide-react'
import { useRef, useState } from 'react'
import { canSpeak } from '@marionette/core/playing/playing'
import type { Clip } from '@marionette/core/clips/records'
import { setClip } from '@marionette/core/clips/commands'
import { counted } from '@marionette/core/kernel/counted'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { speechEdits } from '@marionette/core/playing/speechKeys'
import type { SpeechTrack } from '@marionette/core/speech/track'
import { sure } from '@marionette/core/kernel/sure'
import { useEditor, type Editor } from '../../editor/editor'
import { perform, useDocument, usePuppet } from '../../editor/document'
import { orSaid } from '../../editor/work'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { Listening } from '../../ui/Listening'
import { clipNow, toFrame, useActing } from './acting'

/** Silence that a clip keeps after what is spoken in it, seconds. */
const AFTER = 0.25

/** Puts a line into the open clip at the moment; the clip is made longer where the line needs it. */
function speakInto(editor: Editor, name: string, track: SpeechTrack): void {
  const clip = clipNow(editor)
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!clip || !puppet) return
  const start = toFrame(clip, useActing.of(editor).getState().time)
  const edits = speechEdits(puppet, clip, track, { id: freshId('layer'), name: name.slice(0, 60), start })
  if (edits.length === 0) return void editor.notify('Nothing speaks yet: give alternates their mouth shapes, or build a mouth.')
  const end = Math.ceil((start + track.duration + AFTER) * clip.rate) / clip.rate
  const longer = end > clip.length ? [edit(setClip, { clip: clip.id, length: end })] : []
  perform(editor, [...longer, ...edits], `Speak “${name.slice(0, 30)}”`)
}

export function SpeakInto({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const [line, setLine] = useState('Good morning, post!')
  const [isBusy, setBusy] = useState(false)
  const [heard, setHeard] = useState<number | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const abort = useRef<AbortController | null>(null)
  const speaks = usePuppet(canSpeak)
  const spoken = clip.layers.length - 1
  const speak = async (): Promise<void> => {
    if (line.trim() === '') return void editor.notify('Type something to say first.')
    setBusy(true)
    const said = await orSaid(editor, () => editor.jobs.speak(line, 1, false))
    setBusy(false)
    if (said) speakInto(editor, line.trim(), said.track)
  }
  const hear = async (file: File): Promise<void> => {
    const own = (abort.current = new AbortController())
    setHeard(0)
    const track = await orSaid(editor, () => editor.jobs.hear(file, (share) => abort.current === own && setHeard(share), own.signal))
    if (abort.current === own) setHeard(null)
    if (track && !own.signal.aborted) speakInto(editor, file.name, track)
  }
  return (
    <Group id="clip-speak" title="Spoken line" aside={spoken > 0 ? <span className="cap">{counted(spoken, 'layer')}</span> : undefined}>
      <input
        aria-label="Line to speak"
        className="h-8 w-full rounded-full bg-tint px-3.5 outline-none focus-visible:outline-2 focus-visible:outline-cord"
        value={line}
        maxLength={2000}
        onChange={(e) => setLine(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') void speak()
        }}
      />
      <input
        ref={picker}
        type="file"
        accept=".wav,audio/wav"
        aria-label="Recording"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void hear(file)
        }}
      />
      {heard !== null ? (
        <Listening heard={heard} onCancel={() => abort.current?.abort()} />
      ) : (
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button small disabled={isBusy || !speaks} onClick={() => void speak()}>
            {isBusy ? 'Looking the words up…' : 'Speak at this moment'}
          </Button>
          <Button small disabled={!speaks} onClick={() => sure(picker.current).click()}>
            <AudioLines size={13} /> Recording…
          </Button>
        </div>
      )}
      <p className="cap mt-1.5">
        {speaks ? 'Its mouth shapes become keys in a layer of their own.' : 'Nothing speaks yet: build a mouth in Face.'}
      </p>
    </Group>
  )
}
