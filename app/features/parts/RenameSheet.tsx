/** New names for the selected parts, shown as they will be. */
import { useState } from 'react'
import { renameParts } from '@marionette/core/parts/arrange'
import { renamed, type NameRule, type Where } from '@marionette/core/parts/batchNames'
import { openPuppet, perform } from '../../editor/document'
import { openPanel, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

export default function RenameSheet() {
  const open = useSession((s) => s.panel === 'rename')
  return open ? <Rename /> : null
}

type Kind = NameRule['do']

const KINDS: readonly { readonly value: Kind; readonly label: string }[] = [
  { value: 'replace', label: 'Replace' },
  { value: 'add', label: 'Add' },
  { value: 'remove', label: 'Remove' },
  { value: 'number', label: 'Number' },
  { value: 'side', label: 'Other side' },
]

const PLACES: readonly { readonly value: Where; readonly label: string }[] = [
  { value: 'anywhere', label: 'Anywhere' },
  { value: 'beginning', label: 'At the beginning' },
  { value: 'end', label: 'At the end' },
]

function ruleOf(kind: Kind, text: string, by: string, at: Where): NameRule {
  if (kind === 'add') return { do: 'add', text, at: at === 'beginning' ? 'beginning' : 'end' }
  if (kind === 'remove') return { do: 'remove', text, at }
  if (kind === 'replace') return { do: 'replace', text, by, at }
  return kind === 'side' ? { do: 'side' } : { do: 'number', text, from: 1, digits: 1 }
}

function Rename() {
  const editor = useEditor()
  const puppet = openPuppet(editor)
  const ids = useSession((s) => s.selection.ids).filter((id) => id in puppet.parts && id !== puppet.root)
  const [kind, setKind] = useState<Kind>('replace')
  const [text, setText] = useState('')
  const [by, setBy] = useState('')
  const [at, setAt] = useState<Where>('anywhere')
  const names = ids.map((id) => partOf(puppet, id).name)
  const next = renamed(names, ruleOf(kind, text, by, at))
  const changed = ids.flatMap((part, i) => (next[i] === names[i] ? [] : [{ part, name: nth(next, i) }]))
  const close = (): void => openPanel(editor, null)
  const apply = (): void => {
    if (changed.length > 0 && perform(editor, [edit(renameParts, { names: changed })], `Rename ${changed.length} parts`)) close()
  }
  return (
    <Sheet wide open onClose={close} title={`Rename ${ids.length} parts`}>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          apply()
        }}
        className="flex flex-col gap-3"
      >
        <Segments label="What to do" value={kind} options={KINDS} onChange={setKind} />
        {kind !== 'side' && (
          <div className="flex gap-4">
            <TextField label={kind === 'number' ? 'New name' : kind === 'add' ? 'Text' : 'Look for'} value={text} onChange={setText} />
            {kind === 'replace' && <TextField label="Put instead" value={by} onChange={setBy} />}
          </div>
        )}
        {(kind === 'replace' || kind === 'remove' || kind === 'add') && (
          <Segments
            label="Where"
            value={kind === 'add' && at === 'anywhere' ? 'end' : at}
            options={kind === 'add' ? PLACES.slice(1) : PLACES}
            onChange={setAt}
          />
        )}
        {kind === 'number' && <p className="cap">Numbers run in the order of the selection; without a new name each keeps its own.</p>}
        <ul className="scroll-thin h-56 overflow-y-auto rounded-lg bg-tint px-3 py-2" aria-label="Names as they will be">
          {ids.map((id, i) => (
            <li key={id} className="flex gap-3 leading-6">
              <span className="w-1/2 truncate text-quiet">{names[i]}</span>
              <span className={`flex-1 truncate ${next[i] === names[i] ? 'text-quiet' : 'font-semibold'}`}>{next[i]}</span>
            </li>
          ))}
        </ul>
        <div className="flex items-center gap-3">
          <Button kind="ink" disabled={changed.length === 0} onClick={apply}>
            Rename {changed.length}
          </Button>
          <span className="cap">{changed.length === 0 ? 'No name changes yet' : `${ids.length - changed.length} stay as they are`}</span>
        </div>
      </form>
    </Sheet>
  )
}

function TextField({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) {
  return (
    <label className="flex flex-1 items-center gap-2">
      <span className="text-quiet">{label}</span>
      <input
        className="min-w-0 flex-1 border-b border-hair bg-transparent py-0.5 outline-none focus:border-ink"
        value={value}
        maxLength={200}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
      />
    </label>
  )
}
