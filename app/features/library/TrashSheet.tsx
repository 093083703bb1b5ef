/** What was deleted: taken back with one click, or away for good after a question. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { formatDistanceToNow } from 'date-fns'
import { useState } from 'react'
import { purgePuppet, restorePuppet, type PuppetSummary } from '../../storage/api'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { useEditor } from '../../editor/editor'

interface TrashSheetProps {
  readonly open: boolean
  readonly onClose: () => void
  readonly puppets: readonly PuppetSummary[]
}

export default function TrashSheet({ open, onClose, puppets }: TrashSheetProps) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Trash"
      text="Deleted puppets lie here, with all their versions, until you remove them for good."
    >
      {puppets.length === 0 ? (
        <p className="py-4 text-quiet">Nothing lies here.</p>
      ) : (
        <ul className="divide-y divide-hair" aria-label="Deleted puppets">
          {puppets.map((puppet) => (
            <Trashed key={puppet.id} puppet={puppet} />
          ))}
        </ul>
      )}
    </Sheet>
  )
}

function Trashed({ puppet }: { puppet: PuppetSummary }) {
  const editor = useEditor()
  const queries = useQueryClient()
  const [isAsking, setAsking] = useState(false)
  const options = { onSuccess: () => queries.invalidateQueries(), onError: (error: Error) => void editor.notify.error(error.message) }
  const restore = useMutation({ mutationFn: () => restorePuppet(puppet.id), ...options })
  const purge = useMutation({ mutationFn: () => purgePuppet(puppet.id), ...options })
  return (
    <li className="flex items-center gap-2 py-2">
      <span className="min-w-0 flex-1">
        <b className="block truncate font-[650]">{puppet.name}</b>
        <span className="cap">{puppet.deletedAt && `deleted ${formatDistanceToNow(new Date(puppet.deletedAt), { addSuffix: true })}`}</span>
      </span>
      {isAsking ? (
        <>
          <span className="text-cord">This cannot be undone.</span>
          <Button small onClick={() => setAsking(false)}>
            Keep
          </Button>
          <Button small className="text-cord" onClick={() => purge.mutate()}>
            Delete for good
          </Button>
        </>
      ) : (
        <>
          <Button small onClick={() => restore.mutate()}>
            Take back
          </Button>
          <Button small className="text-cord" onClick={() => setAsking(true)}>
            Delete for good…
          </Button>
        </>
      )}
    </li>
  )
}
