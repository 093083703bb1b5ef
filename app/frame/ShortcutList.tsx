/** The list behind the question mark. */
import { openPanel, useSession } from '../editor/session'
import { keysShown } from '../ui/keys'
import { Sheet } from '../ui/Sheet'
import { ACTIONS } from './actions'
import { useEditor } from '../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

const BY_HAND = [
  ['Space and drag', 'Pan the stage'],
  ['Wheel, Ctrl and wheel', 'Zoom at the pointer'],
  ['Shift and wheel', 'Pan sideways'],
  ['Two fingers', 'Pan and zoom'],
  ['Escape', 'Cancel a drag in progress'],
  ['1 to 9', 'Tools of the belt'],
] as const

export function ShortcutList() {
  const editor = useEditor()
  const open = useSession((s) => s.panel === 'shortcuts')
  const listed = ACTIONS.filter((a) => a.shown && a.group !== 'Tools')
  const groups = [...new Set(listed.map((a) => a.group))].map((group) => [group, listed.filter((a) => a.group === group)] as const)
  return (
    <Sheet open={open} onClose={() => openPanel(editor, null)} title="Shortcuts" wide>
      <div className="grid grid-cols-2 gap-x-10 gap-y-5">
        {groups.map(([group, actions]) => (
          <section key={group}>
            <h3 className="mb-1 text-xs font-semibold">{group}</h3>
            {actions.map((a) => (
              <Line key={a.id} keys={sure(a.shown)} text={a.label} />
            ))}
          </section>
        ))}
        <section>
          <h3 className="mb-1 text-xs font-semibold">On the stage</h3>
          {BY_HAND.map(([keys, text]) => (
            <Line key={keys} keys={keys} text={text} />
          ))}
        </section>
      </div>
    </Sheet>
  )
}

function Line({ keys, text }: { keys: string; text: string }) {
  return (
    <div className="flex h-7 items-center gap-3">
      <span className="flex-1">{text}</span>
      <kbd className="cap rounded-md bg-tint px-1.5">{keysShown(keys)}</kbd>
    </div>
  )
}
