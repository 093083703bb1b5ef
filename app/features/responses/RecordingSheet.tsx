/** A recording was going on when the page was left: it is gone on with, or discarded. */
import { counted } from '@marionette/core/kernel/counted'
import { useEffect } from 'react'
import { useNavigate } from 'react-router'
import { openPuppet } from '../../editor/document'
import { discardRecording, recorded, resumeRecording } from './recording'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { stopWords } from './words'
import type { Recording } from '../../storage/recording'
import { useEditor } from '../../editor/editor'

export default function RecordingSheet({ recording, onAnswer }: { recording: Recording; onAnswer: () => void }) {
  const editor = useEditor()
  const navigate = useNavigate()
  const now = recorded(editor, openPuppet(editor), recording)
  useEffect(() => {
    // Undone or taken back meanwhile: there is nothing to ask about.
    if (!now) onAnswer()
  }, [now, onAnswer])
  if (!now) return null
  const count = now.stop.changes.length
  const answer = (isWanted: boolean): void => {
    if (resumeRecording(editor, recording)) {
      if (!isWanted) discardRecording(editor)
      else void navigate(`/puppet/${recording.puppet}/shape`, { replace: true })
    }
    onAnswer()
  }
  return (
    <Sheet
      open
      title="You were recording"
      text={`${now.response.name} at ${stopWords(openPuppet(editor), now.response, now.stop.at)}, with ${counted(count, 'change')} so far. The page was left before it was kept.`}
    >
      <div className="flex justify-end gap-2">
        <Button onClick={() => answer(false)}>Discard it</Button>
        <Button kind="ink" onClick={() => answer(true)}>
          Go on recording
        </Button>
      </div>
    </Sheet>
  )
}
