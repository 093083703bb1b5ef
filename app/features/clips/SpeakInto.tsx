/** A typed line or a recording becomes mouth shapes, in a layer of its own from the moment that is looked at. */
import { AudioLines, Volume2, VolumeX } from 'lucide-react'
import { useState } from 'react'
import { canSpeak } from '@marionette/core/playing/playing'
import type { Clip } from '@marionette/core/clips/records'
import { counted } from '@marionette/core/kernel/counted'
import { useEditor } from '../../editor/editor'
import { usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { FileButton } from '../../ui/FileButton'
import { MouthSets } from '../face/MouthSets'
import { SOUND_FILES } from './SoundGroup'
import { speakFile, speakLine, useSounding } from './sounds'

export function SpeakInto({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const [line, setLine] = useState('Good morning, post!')
  const [isAloud, setAloud] = useState(true)
  const [mood, setMood] = useState('')
  const busy = useSounding((s) => s.busy)
  const speaks = usePuppet(canSpeak)
  const spoken = clip.layers.filter((layer) => layer.spoken !== null).length
  const speak = (): void => void speakLine(editor, line, mood, isAloud)
  return (
    <Group id="clip-speak" title="Spoken line" aside={spoken > 0 ? <span className="cap">{counted(spoken, 'line')}</span> : undefined}>
      <input
        aria-label="Line to speak"
        className="h-8 w-full rounded-full bg-tint px-3.5 outline-none focus-visible:outline-2 focus-visible:outline-cord"
        value={line}
        maxLength={2000}
        onChange={(e) => setLine(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') speak()
        }}
      />
      <MouthSets mood={mood} onChange={setMood} />
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button small disabled={busy !== null || !speaks} onClick={speak}>
          {busy === 'speaking' ? 'Looking the words up…' : 'Speak at this moment'}
        </Button>
        <Button small aria-pressed={isAloud} title="A simulated voice says typed lines" onClick={() => setAloud(!isAloud)}>
          {isAloud ? <Volume2 size={13} /> : <VolumeX size={13} />} {isAloud ? 'Aloud' : 'Silent'}
        </Button>
        <FileButton small accept={SOUND_FILES} testId="spoken-file" onFiles={([file]) => file && void speakFile(editor, file, mood)}>
          <AudioLines size={13} /> Recording…
        </FileButton>
      </div>
      <p className="cap mt-1.5">
        {speaks
          ? 'Its mouth shapes hang on the timeline as pictures: drag, replace or merge them.'
          : 'Nothing speaks yet: build a mouth in Face.'}
      </p>
    </Group>
  )
}
