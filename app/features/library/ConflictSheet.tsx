/** The puppet was saved elsewhere in the meantime: both versions are kept, the person decides which one to go on with. */
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import { renamePuppet } from '@marionette/core/puppet/puppetCommands'
import { drawPicture } from '../send/pictures'
import { importPuppet, loadPuppet, revisionUrl } from '../../storage/api'
import { openPuppet, useDocument } from '../../editor/document'
import { forgetDraft } from '../../storage/drafts'
import { openStored } from '../../editor/saving/opening'
import { thisTab } from '../../editor/saving/tab'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { useEditor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

export function ConflictSheet() {
  const editor = useEditor()
  const save = useDocument((s) => s.save)
  const puppet = useDocument((s) => s.puppet)
  const navigate = useNavigate()
  const isConflict = save.kind === 'conflict'
  const mine = useOwnPicture(isConflict)
  const theirs = useQuery({
    queryKey: ['theirs', puppet?.id, isConflict && save.revision],
    queryFn: async () => (await loadPuppet(sure(puppet).id)).puppet,
    enabled: isConflict,
  })
  if (!isConflict || !puppet) return null
  const keepBoth = async (): Promise<{ id: string; name: string }> => {
    const mine = openPuppet(editor)
    const copy = run(withPuppetId(mine, freshId('puppet')), renamePuppet, { name: `${mine.name}, my version`.slice(0, 200) })
    const added = await importPuppet(copy)
    await forgetDraft(mine.id, await thisTab())
    return added
  }
  const attempt = async (next: (copy: { id: string; name: string }) => Promise<void>): Promise<void> => {
    try {
      await next(await keepBoth())
    } catch (error) {
      editor.notify.error((error as Error).message)
    }
  }
  return (
    <Sheet
      open
      title="This puppet was saved elsewhere"
      wide
      text={`While you worked here, another window or person saved it as version ${save.revision}. Nothing is lost: your version becomes a puppet of its own beside theirs.`}
    >
      <div className="grid grid-cols-2 gap-5">
        <Side
          title="Yours"
          picture={mine}
          puppet={puppet}
          action={
            <Button kind="ink" onClick={() => void attempt(async ({ id }) => void navigate(`/puppet/${id}/parts`))}>
              Go on with mine
            </Button>
          }
        />
        <Side
          title={`Theirs, version ${save.revision}`}
          picture={theirs.data ? revisionUrl(puppet.id, save.revision) : ''}
          puppet={theirs.data ?? null}
          action={
            <Button
              onClick={() =>
                void attempt(async ({ name }) => {
                  await openStored(editor, openPuppet(editor).id)
                  editor.notify(`Your version is in the library as ${name}.`)
                })
              }
            >
              Go on with theirs
            </Button>
          }
        />
      </div>
    </Sheet>
  )
}

interface SideProps {
  readonly title: string
  readonly picture: string
  readonly puppet: Puppet | null
  readonly action: ReactNode
}

/** One of the two versions: what it looks like and how much is in it. */
function Side({ title, picture, puppet, action }: SideProps) {
  return (
    <section aria-label={title} className="min-w-0">
      <h3 className="mb-1.5 font-[650]">{title}</h3>
      <div className="stage-body grid h-[260px] place-items-center rounded-xl">
        {picture && <img src={picture} alt={`The puppet in this version: ${title}`} className="max-h-[236px] max-w-full object-contain" />}
      </div>
      <p className="cap mt-1.5 mb-3 min-h-4">
        {puppet && `${puppet.name}: ${Object.keys(puppet.parts).length - 1} parts, ${Object.keys(puppet.bones).length} bones`}
      </p>
      {action}
    </section>
  )
}

/** Picture of the open puppet as this page has it. */
function useOwnPicture(isWanted: boolean): string {
  const editor = useEditor()
  const [url, setUrl] = useState('')
  useEffect(() => {
    if (!isWanted) return
    let made = ''
    void drawPicture(editor, openPuppet(editor)).then((png) => {
      made = URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' }))
      setUrl(made)
    })
    return () => URL.revokeObjectURL(made)
  }, [editor, isWanted])
  return url
}
