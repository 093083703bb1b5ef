/** The list of responses in the roster's place: what each listens to, how many stops it has, whether it is muted. */
import { counted } from '@marionette/core/kernel/counted'
import { Circle, Eye, EyeOff, Search, Spline, Workflow } from 'lucide-react'
import { useState } from 'react'
import type { Response } from '@marionette/core/puppet/schema'
import { setResponse } from '@marionette/core/responses/commands'
import { FindField } from '../../panels/FindField'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { nextOf, recordResponse } from './recordHere'
import { recordingNow, useRecording } from './recording'
import { openPanel, selectNothing } from '../../editor/session'
import { IconButton } from '../../ui/Button'
import { sayKeepFirst } from './guard'
import { inputWords } from './words'
import { edit } from '@marionette/core/kernel/command'
import { useEditor, type Editor } from '../../editor/editor'

export function openResponse(editor: Editor, id: string): void {
  if (recordingNow(editor)) return sayKeepFirst(editor)
  selectNothing(editor)
  useRecording.of(editor).setState({ open: id })
}

export function ResponseList() {
  const editor = useEditor()
  const responses = usePuppet((p) => p.responses)
  const [find, setFind] = useState('')
  const puppet = usePuppet((p) => p)
  const isFound = (r: Response): boolean =>
    `${r.name} ${r.inputs.map((i) => inputWords(puppet, i)).join(' ')}`.toLowerCase().includes(find.trim().toLowerCase())
  const shown = responses.filter(isFound)
  if (responses.length === 0)
    return (
      <div className="mt-10 flex flex-1 flex-col items-center gap-2 px-4 text-center text-quiet">
        <Spline size={22} />
        <b className="font-display text-[15px] font-semibold text-ink">Nothing answers yet</b>
        <p>Turn a bone or a control, press Record in its details, change what should answer, and keep it.</p>
      </div>
    )
  return (
    <>
      <div className="mt-1.5 mr-2 flex h-7 flex-none items-center gap-1">
        <FindField what="responses" value={find} isOn={find !== ''} onChange={setFind} onClear={() => setFind('')} />
        <IconButton label="Connections: what moves what" className="size-7" onClick={() => openPanel(editor, 'wiring')}>
          <Workflow size={15} />
        </IconButton>
      </div>
      <ul aria-label="Responses" className="scroll-thin mt-1.5 min-h-0 flex-1 overflow-y-auto pr-2">
        {shown.map((r) => (
          <Row key={r.id} response={r} />
        ))}
        {shown.length === 0 && (
          <li className="flex items-center gap-2 p-3 text-quiet">
            <Search size={15} /> Nothing found
          </li>
        )}
      </ul>
    </>
  )
}

const KIND_SIGNS = { ruler: 'ruler', pad: 'pad', correction: 'correction' }

function Row({ response }: { response: Response }) {
  const editor = useEditor()
  const on = useRecording((s) => s.open === response.id)
  const inputs = usePuppet((p) => response.inputs.map((i) => inputWords(p, i)).join(' + '))
  return (
    <li className={`group flex h-11 items-center rounded-lg ${on ? 'bg-cord-soft' : 'hover:bg-tint'}`}>
      <button
        type="button"
        aria-pressed={on}
        className={`min-w-0 flex-1 px-2 text-left ${response.muted ? 'opacity-55' : ''}`}
        onClick={() => openResponse(editor, response.id)}
      >
        <b className={`block truncate ${on ? 'font-[650]' : 'font-medium'}`}>{response.name}</b>
        <span className="cap block truncate">
          {inputs === response.name ? KIND_SIGNS[response.kind] : inputs} · {counted(response.stops.length, 'stop')}
        </span>
      </button>
      <RecordButton response={response} />
      <button
        type="button"
        aria-label={response.muted ? `Unmute ${response.name}` : `Mute ${response.name}`}
        className={`mr-2 text-quiet hover:text-ink ${response.muted ? '' : 'opacity-0 group-hover:opacity-100 focus:opacity-100'}`}
        onClick={() =>
          perform(
            editor,
            [edit(setResponse, { response: { ...response, muted: !response.muted } })],
            `${response.muted ? 'Unmute' : 'Mute'} ${response.name}`,
          )
        }
      >
        {response.muted ? <EyeOff size={14} /> : <Eye size={14} />}
      </button>
    </li>
  )
}

/** Records where the inputs are, or the farthest stop once more while they rest; which of both is said when it is pointed at. */
function RecordButton({ response }: { response: Response }) {
  const editor = useEditor()
  const label = `Record ${response.name}`
  const say = (button: HTMLButtonElement): void => {
    const next = nextOf(editor, openPuppet(editor), response)
    button.title = next ? `${label} ${next.isAgain ? 'again ' : ''}at ${next.words}` : label
  }
  return (
    <button
      type="button"
      aria-label={label}
      className="mr-2 text-cord opacity-0 group-hover:opacity-100 hover:text-ink focus:opacity-100"
      onPointerEnter={(e) => say(e.currentTarget)}
      onFocus={(e) => say(e.currentTarget)}
      onClick={() => recordResponse(editor, response.id)}
    >
      <Circle size={12} fill="currentColor" />
    </button>
  )
}
