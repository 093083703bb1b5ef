/** Listens for the keys of the action table. */
import { useHotkeys } from 'react-hotkeys-hook'
import { useSession } from '../editor/session'
import { toolOf } from './tools'
import { ACTIONS } from './actions'
import type { Action, ActionContext } from '../panels/action'
import { useEditor } from '../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

function Key({ action, context }: { action: Action; context: ActionContext }) {
  const editor = useEditor()
  useHotkeys(
    sure(action.keys),
    (e) => {
      if (action.enabled && !action.enabled(editor)) return
      e.preventDefault()
      action.run(context)
    },
    { ignoreEventWhen: () => document.querySelector('[role="dialog"]') !== null, splitKey: '+', delimiter: ',' },
  )
  return null
}

export function Shortcuts({ context }: { context: ActionContext }) {
  const editor = useEditor()
  useHotkeys('escape', () => toolOf(editor, useSession.of(editor).getState().bench).cancel(editor))
  return ACTIONS.filter((a) => a.keys).map((a) => <Key key={a.id} action={a} context={context} />)
}
