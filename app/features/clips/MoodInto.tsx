/** The mood of a stretch: an expression that comes, stays and goes, on a layer of its own over all that is said and done. */
import { useState } from 'react'
import { addMood } from '@marionette/core/clips/moodCommands'
import type { Clip } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { useEditor } from '../../editor/editor'
import { perform, usePuppet } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { setActing, toFrame, useActing } from './acting'
import { chosenSpan } from './playing'

/** How long a mood stays where no keys are chosen, seconds. */
const USUAL = 1.5

export function MoodInto({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const poses = usePuppet((p) => p.poses)
  const moods = poses.filter(({ face, values }) => face === 'mood' && Object.keys(values).length > 0)
  const [picked, setPicked] = useState<string | null>(null)
  const [length, setLength] = useState(USUAL)
  const [ease, setEase] = useState(6)
  // Only whether keys span a stretch: which one is asked for at the press.
  const hasSpan = useActing((s) => new Set(s.keys.map((key) => key.time)).size > 1)
  const mood = moods.find(({ id }) => id === picked) ?? moods[0]
  const add = (): void => {
    if (!mood) return
    const at = toFrame(clip, useActing.of(editor).getState().time)
    const { from, to } = chosenSpan(editor) ?? { from: at, to: Math.min(clip.length, at + length) }
    const layer = freshId('layer')
    const args = { clip: clip.id, layer, pose: mood.id, from, to, ease: Math.max(0.02, ease / clip.rate) }
    if (perform(editor, [edit(addMood, args)], `Mood: ${mood.name}`)) setActing(editor, { keys: [] })
  }
  return (
    <Group id="clip-mood" title="Mood of a stretch">
      {mood ? (
        <>
          <Field label="Mood">
            <Pick
              label="Mood"
              value={mood.id}
              options={moods.map(({ id, name }) => ({ id, label: name }))}
              onChange={(id) => setPicked(id)}
            />
          </Field>
          {!hasSpan && (
            <NumberField
              label="For"
              value={length}
              unit="s"
              min={0.1}
              max={60}
              digits={2}
              step={0.1}
              onChange={(v) => setLength(v ?? USUAL)}
            />
          )}
          <NumberField label="Comes in" value={ease} unit="frames" min={1} max={120} digits={0} onChange={(v) => setEase(v ?? 6)} />
          <div className="mt-1.5">
            <Button small onClick={add}>
              {hasSpan ? 'Add between the chosen keys' : 'Add from this moment'}
            </Button>
          </div>
        </>
      ) : (
        <p className="cap">No moods are kept yet: keep some in Face.</p>
      )}
    </Group>
  )
}
