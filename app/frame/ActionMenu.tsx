/** Actions in menus on the secondary button, in their blocks. */
import { ContextMenu, DropdownMenu } from 'radix-ui'
import { Fragment } from 'react'
import { ACTIONS } from './actions'
import type { Action, ActionContext, MenuKind } from '../panels/action'
import { MENU_ITEM } from '../ui/menu'
import { keysShown } from '../ui/keys'
import { useKeysFor } from '../panels/keymap'
import { useEditor, type Editor } from '../editor/editor'

/** Actions of a menu in their blocks, first block first; without those that can do nothing, where they are in the way. */
function blocksOf(kind: MenuKind, editor: Editor, onlyEnabled: boolean): Action[][] {
  const shown = ACTIONS.filter((a) => a.menu?.[kind] !== undefined && (!onlyEnabled || a.enabled?.(editor) !== false))
  const ranks = [...new Set(shown.map((a) => a.menu?.[kind] ?? 0))].sort((a, b) => a - b)
  return ranks.map((rank) => shown.filter((a) => a.menu?.[kind] === rank))
}

interface Shown {
  readonly kind: MenuKind
  readonly context: ActionContext
  /** Items of which menu these are: of one that is part of a list, or of one at a place of the stage. */
  readonly parts: typeof ContextMenu | typeof DropdownMenu
  readonly onlyEnabled?: boolean
}

export function ActionItems({ kind, context, parts: { Item, Separator }, onlyEnabled = false }: Shown) {
  const editor = useEditor()
  return blocksOf(kind, editor, onlyEnabled).map((block, i) => (
    <Fragment key={i}>
      {i > 0 && <Separator className="my-1 border-t border-hair" />}
      {block.map((action) => (
        <Item
          key={action.id}
          className={`${MENU_ITEM} data-[disabled]:opacity-45`}
          disabled={action.enabled?.(editor) === false}
          // Once the menu has given back the focus.
          onSelect={() => setTimeout(() => action.run(context))}
        >
          {action.label}
          <Keys action={action} />
        </Item>
      ))}
    </Fragment>
  ))
}

function Keys({ action }: { action: Action }) {
  const keys = useKeysFor(action.id)
  return keys && <kbd className="ml-auto pl-6 font-ui text-xs text-quiet">{keysShown(keys)}</kbd>
}
