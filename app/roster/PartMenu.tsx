/** What can be done with the selected parts, on the secondary button of the pointer. */
import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { TAGS } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { tagPart } from '@marionette/core/edit/marks'
import { ACTIONS, type Action } from '../commands/actions'
import { openPuppet, perform } from '../state/document'
import { selectParts, useSession } from '../state/session'
import { MENU, MENU_ITEM } from '../ui/menu'
import { TAG_NAMES, TagDot } from './TagDot'

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

const actionOf = (id: string): Action => ACTIONS.find((a) => a.id === id)!

export function PartMenu({ children }: { children: ReactNode }) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild onContextMenu={(e) => selectUnder(e.target as HTMLElement)}>
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
                onSelect={() => tagSelected(tag)}
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
function selectUnder(target: HTMLElement): void {
  const id = target.closest<HTMLElement>('[data-row]')?.dataset['row']
  const { selection } = useSession.getState()
  if (id && openPuppet().parts[id] && !selection.ids.includes(id)) selectParts(id)
}

function tagSelected(tag: number): void {
  const { selection } = useSession.getState()
  if (selection.kind === 'part' && selection.ids.length > 0) perform([edit(tagPart, { parts: [...selection.ids], tag })])
}

function Item({ action }: { action: Action }) {
  return (
    <ContextMenu.Item
      className={`${MENU_ITEM} data-[disabled]:opacity-45`}
      disabled={action.enabled?.() === false}
      onSelect={() => setTimeout(() => action.run({ view: () => null, go: () => undefined }))}
    >
      {action.label}
      {action.shown && <kbd className="ml-auto pl-6 font-ui text-xs text-quiet">{action.shown}</kbd>}
    </ContextMenu.Item>
  )
}
