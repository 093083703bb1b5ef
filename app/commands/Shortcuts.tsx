/** Listens for the keys of the action table. */
import { useHotkeys } from 'react-hotkeys-hook'
import { useSession } from '../state/session'
import { toolOf } from '../stage/tools/tools'
import { ACTIONS, type Action, type ActionContext } from './actions'

function Key({ action, context }: { action: Action; context: ActionContext }) {
  useHotkeys(
    action.keys!,
    (e) => {
      if (action.enabled && !action.enabled()) return
      e.preventDefault()
      action.run(context)
    },
    { ignoreEventWhen: () => document.querySelector('[role="dialog"]') !== null, splitKey: '+', delimiter: ',' },
  )
  return null
}

export function Shortcuts({ context }: { context: ActionContext }) {
  useHotkeys('escape', () => toolOf(useSession.getState().bench).cancel())
  return ACTIONS.filter((a) => a.keys).map((a) => <Key key={a.id} action={a} context={context} />)
}
