/** What can be done with the selected parts, on the secondary button of the pointer. */
import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { tagPart } from '@marionette/core/parts/marks'
import { ActionItems } from './ActionMenu'
import { openPuppet, perform } from '../editor/document'
import { selectParts, useSession } from '../editor/session'
import { MENU } from '../ui/menu'
import type { ActionContext } from '../panels/action'
import { TAG_NAMES, TagDot } from '../panels/TagDot'
import { edit } from '@marionette/core/kernel/command'
import { TAGS } from '@marionette/core/parts/records'
import { useEditor, type Editor } from '../editor/editor'

export function PartMenu({ context, children }: { context: ActionContext; children: ReactNode }) {
  const editor = useEditor()
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild onContextMenu={(e) => selectUnder(editor, e.target as HTMLElement)}>
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <ActionItems kind="part" context={context} parts={ContextMenu} />
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
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}

/** The row under the pointer is meant, unless it is one of several selected. */
function selectUnder(editor: Editor, target: HTMLElement): void {
  const id = target.closest<HTMLElement>('[data-row]')?.dataset['row']
  const { selection } = useSession.of(editor).getState()
  if (id && openPuppet(editor).parts[id] && !selection.ids.includes(id)) selectParts(editor, id)
}

function tagSelected(editor: Editor, tag: number): void {
  const { selection } = useSession.of(editor).getState()
  if (selection.kind === 'part' && selection.ids.length > 0) perform(editor, [edit(tagPart, { parts: [...selection.ids], tag })])
}
