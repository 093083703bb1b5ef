/** What can be done with the selected parts, on the secondary button of the pointer. */
import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { tagPart } from '@marionette/core/parts/marks'
import { ACTIONS } from './actions'
import type { Action } from '../panels/action'
import { openPuppet, perform } from '../editor/document'
import { selectParts, useSession } from '../editor/session'
import { MENU, MENU_ITEM } from '../ui/menu'
import { TAG_NAMES, TagDot } from '../panels/TagDot'
import { edit } from '@marionette/core/kernel/command'
import { TAGS } from '@marionette/core/parts/records'
import { useEditor, type Editor } from '../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

const IDS = [
  'rename',
  'renameMany',
  null,
  'group',
  'ungroup',
  'duplicate',
  'join',
  'splitLines',
  null,
  'show',
  'showAlone',
  'lock',
  null,
  'delete',
] as const

const actionOf = (id: string): Action => sure(ACTIONS.find((a) => a.id === id))

export function PartMenu({ children }: { children: ReactNode }) {
  const editor = useEditor()
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild onContextMenu={(e) => selectUnder(editor, e.target as HTMLElement)}>
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          {IDS.map((id, i) =>
            id === null ? <ContextMenu.Separator key={i} className="my-1 border-t border-hair" /> : <Item key={id} action={actionOf(id)} />,
          )}
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

function Item({ action }: { action: Action }) {
  const editor = useEditor()
  return (
    <ContextMenu.Item
      className={`${MENU_ITEM} data-[disabled]:opacity-45`}
      disabled={action.enabled?.(editor) === false}
      onSelect={() => setTimeout(() => action.run({ editor, view: () => null, go: () => undefined }))}
    >
      {action.label}
      {action.shown && <kbd className="ml-auto pl-6 font-ui text-xs text-quiet">{action.shown}</kbd>}
    </ContextMenu.Item>
  )
}
