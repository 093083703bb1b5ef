/** Details of a response: what it listens to, how it goes from stop to stop, who decides. */
import { counted } from '@marionette/core/kernel/counted'
import { FlipHorizontal2, Trash2 } from 'lucide-react'
import { freshId } from '@marionette/core/kernel/ids'
import { chosenBy, type Response } from '@marionette/core/puppet/schema'
import { mirrorResponse } from '@marionette/core/responses/mirror'
import { deleteResponse, setResponse } from '@marionette/core/responses/commands'
import { Field, Group } from '../../panels/Group'
import { NameHeading } from '../../panels/NameHeading'
import { perform, usePuppet } from '../../editor/document'
import { useRecording } from './recording'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { CurveField } from './CurveField'
import { inputWords, stopWords } from './words'
import { edit } from '@marionette/core/kernel/command'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

const BETWEEN = [
  { value: 'smooth', label: 'Smooth' },
  { value: 'even', label: 'Even' },
  { value: 'curve', label: 'Curve' },
] as const
const BEYOND = [
  { value: 'hold', label: 'Holds' },
  { value: 'continue', label: 'Goes on' },
] as const
const FADE = [
  { value: 'product', label: 'Product' },
  { value: 'least', label: 'Least' },
] as const
const OVER = [
  { value: 'no', label: 'Stays within' },
  { value: 'yes', label: 'May overshoot' },
] as const

const KIND_WORDS = { ruler: 'Answers to one input', pad: 'Answers to two inputs', correction: 'Corrects a combination' }

export function ResponseDetails({ response }: { response: Response }) {
  const editor = useEditor()
  return (
    <>
      <NameHeading
        lead={null}
        name={response.name}
        note={KIND_WORDS[response.kind]}
        onRename={(name) => set(editor, { ...response, name })}
      />
      <AnswersTo response={response} />
      <Ways response={response} />
      <ChoosesGroup response={response} />
      <div className="flex flex-wrap gap-2 border-t border-hair py-3">
        <Button
          small
          onClick={() =>
            perform(editor, [edit(mirrorResponse, { response: response.id, id: freshId('response') })], `Mirror ${response.name}`)
          }
        >
          <FlipHorizontal2 size={13} /> Mirror
        </Button>
        <Button small onClick={() => set(editor, { ...response, muted: !response.muted })}>
          {response.muted ? 'Unmute' : 'Mute'}
        </Button>
        <Button
          small
          onClick={() => {
            useRecording.of(editor).setState({ open: null })
            perform(editor, [edit(deleteResponse, { response: response.id })], `Delete ${response.name}`)
          }}
        >
          <Trash2 size={13} /> Delete
        </Button>
      </div>
    </>
  )
}

const set = (editor: Editor, response: Response): void => void perform(editor, [edit(setResponse, { response })], `Change ${response.name}`)

export function AnswersTo({ response }: { response: Response }) {
  const puppet = usePuppet((p) => p)
  return (
    <Group id="answers-to" title="Answers to">
      {response.inputs.map((input, k) => (
        <p key={k} className="truncate leading-6">
          {inputWords(puppet, input)}
        </p>
      ))}
      {response.kind === 'ruler' && (
        <p className="cap">
          {response.stops.length === 0
            ? 'No stops yet.'
            : `${counted(response.stops.length, 'stop')}: ${[...response.stops]
                .sort((a, b) => nth(a.at, 0) - nth(b.at, 0))
                .map((s) => stopWords(puppet, response, s.at))
                .join(', ')}`}
        </p>
      )}
    </Group>
  )
}

function Ways({ response }: { response: Response }) {
  const editor = useEditor()
  return (
    <Group id="between-stops" title="Between stops">
      <Segments
        label="Between stops"
        value={response.between}
        options={BETWEEN}
        onChange={(between) => set(editor, { ...response, between })}
      />
      {response.between === 'curve' && <CurveField curve={response.curve} onChange={(curve) => set(editor, { ...response, curve })} />}
      {response.between === 'smooth' && response.kind !== 'correction' && (
        <div className="mt-2">
          <Segments
            label="Overshoot"
            value={response.overshoots ? 'yes' : 'no'}
            options={OVER}
            onChange={(v) => set(editor, { ...response, overshoots: v === 'yes' })}
          />
        </div>
      )}
      {response.kind === 'ruler' && (
        <div className="mt-2">
          <Field label="Past the end">
            <Segments
              label="Past the last stop"
              value={response.beyond}
              options={BEYOND}
              onChange={(beyond) => set(editor, { ...response, beyond })}
            />
          </Field>
        </div>
      )}
      {response.kind === 'correction' && (
        <div className="mt-2">
          <Field label="Fades by">
            <Segments label="Fades by" value={response.fade} options={FADE} onChange={(fade) => set(editor, { ...response, fade })} />
          </Field>
        </div>
      )}
    </Group>
  )
}

/** Only what chooses has a place to switch at, and can clash. */
function ChoosesGroup({ response }: { response: Response }) {
  const editor = useEditor()
  const clashes = usePuppet((p) => clashesOf(p.responses, response).join(', '))
  const chooses = response.stops.some((s) => s.changes.some((c) => c.kind === 'choice'))
  if (!chooses) return null
  return (
    <Group id="chooses" title="Chooses">
      <NumberField
        label="Switches at"
        value={response.switchAt * 100}
        unit="%"
        min={5}
        max={95}
        digits={0}
        onChange={(v) => v !== null && set(editor, { ...response, switchAt: v / 100 })}
      />
      <NumberField
        label="Priority"
        value={response.priority}
        rest={0}
        min={-100}
        max={100}
        digits={0}
        onChange={(v) => v !== null && set(editor, { ...response, priority: v })}
      />
      {clashes && <p className="cap">Chooses for the same as {clashes}. The higher priority decides, of equals the one listed first.</p>}
    </Group>
  )
}

/** Names of responses that choose for a channel that this one chooses for. */
export function clashesOf(responses: readonly Response[], own: Response): string[] {
  const mine = chosenBy(own)
  return responses.filter((r) => r.id !== own.id && [...chosenBy(r)].some((a) => mine.has(a))).map((r) => `${r.name} (${r.priority})`)
}
