/** Which view is shown, above the zoom, where there are several. */
import { usePuppet } from '../../editor/document'
import { showView } from './showing'
import { useEditor } from '../../editor/editor'

export function ViewPick() {
  const editor = useEditor()
  const views = usePuppet((p) => p.views)
  const shown = usePuppet((p) => p.view)
  if (views.length === 1) return null
  return (
    <div
      role="group"
      aria-label="View"
      className="absolute bottom-[76px] left-3 flex max-w-[40%] gap-0.5 overflow-x-auto rounded-[10px] bg-[color-mix(in_srgb,var(--panel)_86%,transparent)] p-1 text-xs"
      onPointerDown={(e) => e.stopPropagation()}
    >
      {views.map((v) => (
        <button
          key={v.id}
          type="button"
          aria-pressed={v.id === shown}
          onClick={() => showView(editor, v.id)}
          className={`rounded-md px-2 leading-6 whitespace-nowrap ${v.id === shown ? 'bg-ink font-semibold text-panel' : 'text-quiet hover:bg-tint hover:text-ink'}`}
        >
          {v.name}
        </button>
      ))}
    </div>
  )
}
