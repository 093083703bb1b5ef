/** Listens for the keys of the action table. */
import { useHotkeys } from 'react-hotkeys-hook'
import { useDocument } from '../editor/document'
import { selectNothing, useSession } from '../editor/session'
import { toolOf } from './tools'
import { useEffect } from 'react'
import { keysOf, learnKeys, useKeymap } from '../panels/keymap'
import { isByPlace, isDialogOpen, JOIN, listened, printsNothingKnown } from '../ui/keys'
import { ACTIONS } from './actions'
import type { Action, ActionContext } from '../panels/action'
import { useEditor } from '../editor/editor'

/** A field that is typed in keeps its keys, but a number that was taken over has nothing left to undo by itself. */
const isTypedIn = ({ target }: KeyboardEvent): boolean =>
  target instanceof HTMLElement && target.matches('input:not([data-settled]), textarea, select')

/** Letters and signs by what is printed on the key, whatever the layout; digits by their place. */
function Key({ action, keys, context }: { action: Action; keys: string; context: ActionContext }) {
  const editor = useEditor()
  const run = (e: KeyboardEvent): void => {
    if (action.enabled && !action.enabled(editor)) return
    e.preventDefault()
    action.run(context)
  }
  const place = isByPlace(keys)
  const common = { splitKey: JOIN, delimiter: ',', enableOnFormTags: action.inFields ?? false }
  const isNotMeant = (e: KeyboardEvent): boolean => isDialogOpen() || (action.inFields === true && isTypedIn(e))
  useHotkeys(listened(keys), run, { ...common, useKey: !place, ignoreEventWhen: isNotMeant })
  useHotkeys(listened(keys), run, { ...common, enabled: !place, ignoreEventWhen: (e) => !printsNothingKnown(e) || isNotMeant(e) })
  return null
}

export function Shortcuts({ context }: { context: ActionContext }) {
  const editor = useEditor()
  useHotkeys('escape', (e) => {
    // What closes a menu or a sheet is not meant for the stage.
    if (e.defaultPrevented) return
    const isBusy = useDocument.of(editor).getState().gesture !== null
    const tool = toolOf(editor, useSession.of(editor).getState().bench)
    tool.cancel(editor)
    if (!isBusy && tool.escapeDeselects) selectNothing(editor)
  })
  const keymap = useKeymap()
  useEffect(() => learnKeys(editor, ACTIONS), [editor])
  return ACTIONS.flatMap((a) => {
    const keys = keysOf(keymap, a)
    return keys === '' ? [] : [<Key key={`${a.id} ${keys}`} action={a} keys={keys} context={context} />]
  })
}
