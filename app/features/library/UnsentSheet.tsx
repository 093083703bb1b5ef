/** Work that another window of this browser left behind and that never reached the library: each piece is kept, taken out or discarded. */
import { formatDistanceToNow } from 'date-fns'
import { useState } from 'react'
import { freshId } from '@marionette/core/kernel/ids'
import { run } from '@marionette/core/puppet/edit'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import { renamePuppet } from '@marionette/core/puppet/puppetCommands'
import { saveAsFile } from '../send/archiveFile'
import { importPuppet } from '../../storage/api'
import { forgetDraft, type Draft } from '../../storage/drafts'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { useEditor } from '../../editor/editor'

interface UnsentSheetProps {
  readonly drafts: readonly Draft[]
  readonly onChange: (left: readonly Draft[]) => void
}

export default function UnsentSheet({ drafts, onChange }: UnsentSheetProps) {
  const done = (draft: Draft): void => {
    void forgetDraft(draft.puppet.id, draft.tab)
    onChange(drafts.filter((d) => d !== draft))
  }
  return (
    <Sheet
      open
      onClose={() => onChange([])}
      wide
      title="Work that never reached the library"
      text="Other windows were closed before their changes were saved. What you leave here is offered again the next time."
    >
      <ul className="divide-y divide-hair" aria-label="Unsent work">
        {drafts.map((draft) => (
          <Unsent key={draft.tab} draft={draft} onDone={() => done(draft)} />
        ))}
      </ul>
    </Sheet>
  )
}

function Unsent({ draft, onDone }: { draft: Draft; onDone: () => void }) {
  const editor = useEditor()
  const [isBusy, setBusy] = useState(false)
  const [isSure, setSure] = useState(false)
  const attempt = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true)
    try {
      await work()
    } catch (error) {
      editor.notify.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  const keep = async (): Promise<void> => {
    const name = `${draft.puppet.name}, unsent`.slice(0, 200)
    const { name: kept } = await importPuppet(run(withPuppetId(draft.puppet, freshId('puppet')), renamePuppet, { name }))
    editor.notify.success(`Kept in the library as ${kept}.`)
    onDone()
  }
  const last = draft.changes[draft.done - 1]?.label
  return (
    <li className="flex items-center gap-3 py-2.5">
      <div className="min-w-0 flex-1">
        <p className="truncate font-[650]">{last ?? draft.puppet.name}</p>
        <p className="cap">
          {draft.at > 0 ? `Left ${formatDistanceToNow(draft.at, { addSuffix: true })}` : 'Left some time ago'}, based on version{' '}
          {draft.revision}
        </p>
      </div>
      <Button disabled={isBusy} onClick={() => (isSure ? onDone() : setSure(true))}>
        {isSure ? 'Discard for good' : 'Discard…'}
      </Button>
      <Button disabled={isBusy} onClick={() => void attempt(() => saveAsFile(editor, draft.puppet))}>
        Save as a file
      </Button>
      <Button kind="ink" disabled={isBusy} onClick={() => void attempt(keep)}>
        Keep as its own puppet
      </Button>
    </li>
  )
}
