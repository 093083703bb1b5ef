/** Versions of the open puppet: a list with times, a picture of the one that is looked at, names, and the way back. */
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { format, formatDistanceToNow } from 'date-fns'
import { useState } from 'react'
import { takeVersion } from '@marionette/core/puppet/puppetCommands'
import { listRevisions, loadRevision, nameRevision, revisionUrl, type RevisionSummary } from '../storage/api'
import { openPuppet, perform, usePuppet } from '../editor/document'
import { noteWentBack } from '../editor/saving/autosave'
import { Button } from '../ui/Button'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../editor/editor'

export function Versions({ onTaken }: { onTaken: () => void }) {
  const id = usePuppet((p) => p.id)
  const [chosen, setChosen] = useState<number | null>(null)
  const versions = useQuery({ queryKey: ['versions', id], queryFn: () => listRevisions(id), refetchOnMount: 'always' })
  if (versions.isError) return <p className="py-6 text-quiet">The versions cannot be shown: {versions.error.message}</p>
  if (!versions.data) return <p className="py-6 text-quiet">Looking for versions…</p>
  const { present, revisions } = versions.data
  const looked = revisions.find((r) => r.revision === chosen) ?? revisions[0]
  if (!looked) return <p className="py-6 text-quiet">Every save becomes a version. There is none yet.</p>
  return (
    <div className="mt-3 grid grid-cols-[250px_1fr] gap-5">
      <ul className="scroll-thin max-h-[56vh] overflow-y-auto pr-1" aria-label="Versions">
        {revisions.map((r) => (
          <li key={r.revision}>
            <button
              type="button"
              onClick={() => setChosen(r.revision)}
              aria-current={r.revision === looked.revision ? 'true' : undefined}
              className={`flex w-full items-center gap-3 rounded-lg p-1.5 text-left hover:bg-tint ${r.revision === looked.revision ? 'bg-tint' : ''}`}
            >
              <img
                src={revisionUrl(id, r.revision)}
                alt=""
                loading="lazy"
                className="stage-body size-11 flex-none rounded-md object-contain p-0.5"
              />
              <span className="min-w-0 flex-1">
                <b className="block truncate font-[650]">{r.name ?? `Version ${r.revision}`}</b>
                <span className="cap block truncate">
                  {r.revision === present ? 'now in the library' : formatDistanceToNow(new Date(r.at), { addSuffix: true })}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <Looked id={id} version={looked} isPresent={looked.revision === present} onTaken={onTaken} />
    </div>
  )
}

interface LookedProps {
  readonly id: string
  readonly version: RevisionSummary
  readonly isPresent: boolean
  readonly onTaken: () => void
}

function Looked({ id, version, isPresent, onTaken }: LookedProps) {
  const editor = useEditor()
  const queries = useQueryClient()
  const [isBusy, setBusy] = useState(false)
  const rename = async (name: string): Promise<void> => {
    const wanted = name.trim() || null
    if (wanted === version.name) return
    try {
      await nameRevision(id, version.revision, wanted)
      await queries.invalidateQueries({ queryKey: ['versions', id] })
    } catch (error) {
      editor.notify.error((error as Error).message)
    }
  }
  const goBack = async (): Promise<void> => {
    setBusy(true)
    try {
      const puppet = await loadRevision(id, version.revision)
      if (
        openPuppet(editor).id === id &&
        perform(editor, [edit(takeVersion, { version: puppet })], `Go back to ${version.name ?? `version ${version.revision}`}`)
      ) {
        noteWentBack(editor)
        editor.notify('This is how it was. Undo takes you back to where you were.')
        onTaken()
      }
    } catch (error) {
      editor.notify.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  return (
    <section aria-label="The version looked at" className="min-w-0">
      <div className="stage-body grid h-[300px] place-items-center rounded-xl">
        <img
          key={version.revision}
          src={revisionUrl(id, version.revision)}
          alt={`The puppet in version ${version.revision}`}
          className="max-h-[276px] max-w-full object-contain"
        />
      </div>
      <p className="cap mt-2">
        Version {version.revision}, saved {format(new Date(version.at), 'd MMMM yyyy, HH:mm:ss')}
      </p>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          void rename(String(new FormData(e.currentTarget).get('name')))
        }}
      >
        <input
          key={version.revision}
          name="name"
          aria-label="Name of the version"
          placeholder="Give it a name and it is kept for good"
          maxLength={200}
          defaultValue={version.name ?? ''}
          className="h-8 min-w-0 flex-1 rounded-lg bg-tint px-3 outline-none placeholder:text-quiet focus:shadow-[0_0_0_2px_var(--cord)]"
        />
        <Button small>Name it</Button>
      </form>
      <Button kind="ink" className="mt-3" disabled={isPresent || isBusy} onClick={() => void goBack()}>
        {isPresent ? 'This is the present version' : 'Go back to this version'}
      </Button>
    </section>
  )
}
