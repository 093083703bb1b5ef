/** What can be done with the selected rows, on the secondary button of the pointer. */
import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { tagPart } from '@marionette/core/parts/marks'
import { ActionItems } from './ActionMenu'
import { openPuppet, perform } from '../editor/document'
import { selectBones, selectParts, useSession } from '../editor/session'
import { MENU } from '../ui/menu'
import { TAG_NAMES, TagDot } from '../panels/TagDot'
import { edit } from '@marionette/core/kernel/command'
import { TAGS } from '@marionette/core/parts/records'
import { useEditor, type Editor } from '../editor/editor'

export function PartMenu({ children }: { children: ReactNode }) {
  const editor = useEditor()
  const kind = useSession((s) => s.selection.kind)
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild onContextMenu={(e) => selectUnder(editor, e.target as HTMLElement)}>
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <ActionItems kind={kind} context={OFF_STAGE} parts={ContextMenu} />
          {kind === 'part' && (
            <>
              <ContextMenu.Separator className="my-1 border-t border-hair" />
              <div className="flex gap-1 px-1.5 py-1" role="group" aria-label="Colour tag">
                {Array.from({ length: TAGS + 1 }, (_, tag) => (
                  <ContextMenu.Item
                    key={tag}
                    aria-label={tag === 0 ? 'No tag' : `Tag ${TAG_NAMES[tag]}`}
                    className="grid size-6 place-items-center rounded-full outline-none data-[highlighted]:bg-tint"
                    onSelect={() => tagSelected(editor, tag)}
                  >
                    <TagDot tag={tag} size={12} />
                  </ContextMenu.Item>
                ))}
              </div>
            </>
          )}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}

/** What the menu of a list can do needs no stage and leads nowhere. */
const OFF_STAGE = { view: () => null, go: () => undefined }

/** The row under the pointer is meant, unless it is one of several selected. */
function selectUnder(editor: Editor, target: HTMLElement): void {
  const id = target.closest<HTMLElement>('[data-row]')?.dataset['row']
  const { selection } = useSession.of(editor).getState()
  if (!id || selection.ids.includes(id)) return
  const { parts, bones } = openPuppet(editor)
  if (parts[id]) selectParts(editor, id)
  else if (bones[id]) selectBones(editor, id)
}

function tagSelected(editor: Editor, tag: number): void {
  const { selection } = useSession.of(editor).getState()
  if (selection.kind === 'part' && selection.ids.length > 0) perform(editor, [edit(tagPart, { parts: [...selection.ids], tag })])
}
