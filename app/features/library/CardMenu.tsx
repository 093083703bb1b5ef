/** What can be done with a puppet of the library. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Copy, FolderOpen, MoreHorizontal, Pencil, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useRef } from 'react'
import { useNavigate } from 'react-router'
import { duplicatePuppet, removePuppet, restorePuppet, type PuppetSummary } from '../../storage/api'
import { IconButton } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { useEditor } from '../../editor/editor'

export default function CardMenu({ puppet, onRename }: { puppet: PuppetSummary; onRename: () => void }) {
  const editor = useEditor()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const isRenaming = useRef(false)
  const refresh = () => queries.invalidateQueries()
  const onError = (error: Error): void => void editor.notify.error(error.message)
  const restore = useMutation({ mutationFn: () => restorePuppet(puppet.id), onSuccess: refresh, onError })
  const duplicate = useMutation({ mutationFn: () => duplicatePuppet(puppet.id), onSuccess: refresh, onError })
  const remove = useMutation({
    mutationFn: () => removePuppet(puppet.id),
    onSuccess: async () => {
      await refresh()
      editor.notify(`${puppet.name} was deleted.`, { duration: 12_000, action: { label: 'Undo', onClick: () => restore.mutate() } })
    },
    onError,
  })
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <IconButton label={`More for ${puppet.name}`}>
          <MoreHorizontal size={17} />
        </IconButton>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className={MENU}
          onCloseAutoFocus={(e) => {
            // The name field may only take the focus once the menu has let go of it.
            e.preventDefault()
            if (isRenaming.current) onRename()
            isRenaming.current = false
          }}
        >
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void navigate(`/puppet/${puppet.id}/parts`)}>
            <FolderOpen size={15} /> Open
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => (isRenaming.current = true)}>
            <Pencil size={15} /> Rename
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => duplicate.mutate()}>
            <Copy size={15} /> Duplicate
          </DropdownMenu.Item>
          <DropdownMenu.Item className={`${MENU_ITEM} text-cord`} onSelect={() => remove.mutate()}>
            <Trash2 size={15} /> Delete
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
