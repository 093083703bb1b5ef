/** The puppet was saved elsewhere in the meantime: both versions are kept, the person decides which one to go on with. */
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import { run } from '@marionette/core/edit/command'
import { renamePuppet } from '@marionette/core/edit/puppet'
import { importPuppet } from '../state/api'
import { openPuppet, useDocument } from '../state/document'
import { forgetKept } from '../state/keep'
import { openStored } from '../state/opening'
import { Button } from '../ui/Button'
import { Sheet } from '../ui/Sheet'

export function ConflictSheet() {
  const save = useDocument((s) => s.save)
  const navigate = useNavigate()
  if (save.kind !== 'conflict') return null
  const keepBoth = async (): Promise<{ id: string; name: string }> => {
    const mine = openPuppet()
    const copy = run({ ...mine, id: freshId('puppet') }, renamePuppet, { name: `${mine.name}, my version`.slice(0, 200) })
    const added = await importPuppet(copy)
    await forgetKept(mine.id)
    return added
  }
  const attempt = async (next: (copy: { id: string; name: string }) => Promise<void>): Promise<void> => {
    try {
      await next(await keepBoth())
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <Sheet
      open
      onClose={() => undefined}
      title="This puppet was saved elsewhere"
      text={`While you worked here, another window or person saved it as version ${save.revision}. Nothing is lost: your version becomes a puppet of its own beside theirs.`}
    >
      <div className="flex flex-wrap gap-2">
        <Button kind="ink" onClick={() => void attempt(async ({ id }) => void navigate(`/puppet/${id}/parts`))}>
          Go on with mine
        </Button>
        <Button
          onClick={() =>
            void attempt(async ({ name }) => {
              await openStored(openPuppet().id)
              toast(`Your version is in the library as ${name}.`)
            })
          }
        >
          Go on with theirs
        </Button>
      </div>
    </Sheet>
  )
}
