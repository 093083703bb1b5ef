/** What concerns the library as a whole: trash, backup, and a backup brought back. */
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Archive, ArchiveRestore, LogOut, MoreHorizontal, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { lazy, Suspense, useRef, useState } from 'react'
import { BACKUP_URL, listTrash, readSession, restoreLibrary, signOut } from '../../storage/api'
import { IconButton } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { useEditor } from '../../editor/editor'

const TrashSheet = lazy(() => import('./TrashSheet'))

export default function LibraryMenu() {
  const editor = useEditor()
  const [isTrashOpen, setTrashOpen] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const queries = useQueryClient()
  const trash = useQuery({ queryKey: ['trash'], queryFn: listTrash })
  const session = useQuery({ queryKey: ['session'], queryFn: readSession })
  const bringBack = async (file: File): Promise<void> => {
    try {
      const { added, copied, unchanged } = await restoreLibrary(file)
      await queries.invalidateQueries()
      editor.notify.success(`From the backup: ${added} added, ${copied} beside what differs here, ${unchanged} here already.`)
    } catch (error) {
      editor.notify.error(`${file.name}: ${(error as Error).message}`, { duration: 8000 })
    }
  }
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <IconButton label="The library">
            <MoreHorizontal size={18} />
          </IconButton>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => setTrashOpen(true)}>
              <Trash2 size={15} /> Trash
              <span className="num ml-auto pl-6 text-quiet">{trash.data?.length ?? ''}</span>
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 border-t border-hair" />
            <DropdownMenu.Item className={MENU_ITEM} asChild>
              <a href={BACKUP_URL} download>
                <Archive size={15} /> Back up everything
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => input.current?.click()}>
              <ArchiveRestore size={15} /> Bring a backup back
            </DropdownMenu.Item>
            {session.data?.needed && (
              <>
                <DropdownMenu.Separator className="my-1 border-t border-hair" />
                <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void signOut().then(() => location.reload())}>
                  <LogOut size={15} /> Sign out
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <input
        ref={input}
        type="file"
        hidden
        accept=".zip,application/zip"
        data-testid="backup-input"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) void bringBack(file)
          e.target.value = ''
        }}
      />
      <Suspense>{isTrashOpen && <TrashSheet open onClose={() => setTrashOpen(false)} puppets={trash.data ?? []} />}</Suspense>
    </>
  )
}
