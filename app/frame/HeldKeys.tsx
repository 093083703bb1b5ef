/** Shift and Alt on the stage, for hands that have no keyboard: pressed once, a key is held until it is pressed again. */
import { toggleHeld, useSession, type HeldKey } from '../editor/session'
import { keysShown } from '../ui/keys'
import { useEditor } from '../editor/editor'

const KEYS: readonly HeldKey[] = ['Shift', 'Alt']

export function HeldKeys() {
  const editor = useEditor()
  const isOffered = useSession((s) => s.offersHeldKeys)
  const held = useSession((s) => s.held)
  if (!isOffered) return null
  return (
    <div
      role="group"
      aria-label="Keys to hold"
      className="absolute bottom-[94px] left-3 flex gap-1 rounded-[10px] bg-[color-mix(in_srgb,var(--panel)_86%,transparent)] p-1 text-xs"
    >
      {KEYS.map((key) => (
        <button
          key={key}
          type="button"
          aria-pressed={held.has(key)}
          className={`h-8 min-w-12 rounded-lg px-2 font-semibold ${held.has(key) ? 'bg-ink text-panel' : 'bg-tint hover:bg-hair'}`}
          onClick={() => toggleHeld(editor, key)}
        >
          {keysShown(key)}
        </button>
      ))}
    </div>
  )
}
