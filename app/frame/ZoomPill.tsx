/** View and zoom at the lower left: shows the zoom, and offers to frame or to type it. */
import { Maximize } from 'lucide-react'
import { useState, useSyncExternalStore } from 'react'
import { usePuppet } from '../editor/document'
import { useEditor } from '../editor/editor'
import { toggleBones, useSession } from '../editor/session'
import { Hint } from '../ui/Button'
import { BoneIcon } from '../ui/icons'
import { zoomAt } from '../stage/camera'
import type { StageView } from '../stage/stageView'
import { useKeysFor } from '../panels/keymap'

export function ZoomPill({ view }: { view: StageView }) {
  const zoom = useSyncExternalStore(
    (listener) => view.onCamera(listener),
    () => Math.round(view.camera.zoom * 100),
  )
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const showBones = useSession((s) => s.showBones)
  const hasBones = usePuppet((p) => Object.keys(p.bones).length > 0)
  const bonesKeys = useKeysFor('showBones')
  const [draft, setDraft] = useState<string | null>(null)
  const commit = (): void => {
    const percent = Number(draft?.replace('%', ''))
    if (draft !== null && percent > 0)
      view.setCamera(zoomAt(view.camera, { x: view.size.width / 2, y: view.size.height / 2 }, percent / 100 / view.camera.zoom))
    setDraft(null)
  }
  return (
    <div className="absolute bottom-3 left-3 flex h-8 items-center gap-1 rounded-[10px] bg-[color-mix(in_srgb,var(--panel)_86%,transparent)] px-2 text-xs">
      <input
        aria-label="Zoom in percent"
        className="num w-[46px] rounded bg-transparent px-1 text-right outline-none hover:bg-tint focus:bg-tint"
        value={draft ?? `${zoom}%`}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') e.currentTarget.blur()
        }}
      />
      <Hint label="Frame the whole puppet" keys={useKeysFor('frameAll')} side="top">
        <button
          type="button"
          aria-label="Frame the whole puppet"
          className="grid size-6 place-items-center rounded text-quiet hover:bg-tint hover:text-ink"
          onClick={() => view.frameAll()}
        >
          <Maximize size={13} />
        </button>
      </Hint>
      {bench !== 'bones' && bench !== 'send' && hasBones && (
        <Hint label={showBones ? 'Hide the bones' : 'Show the bones'} keys={bonesKeys} side="top">
          <button
            type="button"
            aria-label="Show bones"
            aria-pressed={showBones}
            className={`grid size-6 place-items-center rounded hover:bg-tint hover:text-ink ${showBones ? 'bg-tint text-ink' : 'text-quiet'}`}
            onClick={() => toggleBones(editor)}
          >
            <BoneIcon size={14} />
          </button>
        </Hint>
      )}
    </div>
  )
}
