/** Controls that are pinned on the stage: they go along with a spot of a part, or stay on the canvas. */
import { useEffect, useState, type PointerEvent } from 'react'
import type { Control, Vec } from '@marionette/core/puppet/schema'
import { setControl } from '@marionette/core/controls/commands'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { beginGesture, cancelGesture, commitGesture, updateGesture, useDocument, usePuppet } from '../../editor/document'
import { selectControl, useSession } from '../../editor/session'
import { toCanvas, toScreen } from '../../stage/camera'
import type { StageView } from '../../stage/stageView'
import { ControlWidget } from './ControlWidget'
import { edit } from '@marionette/core/kernel/command'
import { partMap } from '@marionette/core/puppet/frame'
import { useEditor } from '../../editor/editor'
import { grip, GRIP } from '../../ui/grip'
import { sure } from '@marionette/core/kernel/sure'

/** Draws anew when the camera or the pose moved. */
function useStageMoves(view: StageView): void {
  const [, count] = useState(0)
  useEffect(() => view.onCamera(() => count((n) => n + 1)), [view])
  useDocument((s) => s.puppet?.pose)
}

export function StageControls({ view }: { view: StageView }) {
  useStageMoves(view)
  const controls = usePuppet((p) => p.controls)
  const bench = useSession((s) => s.bench)
  if (bench === 'send') return null
  return controls.map((control) => <PinnedControl key={control.id} control={control} view={view} />)
}

function placeOf(control: Control, view: StageView): Vec | null {
  const { place } = control
  const model = view.model()
  if (place.on !== 'stage' || !model) return null
  const p = place.part === null ? undefined : model.rig.parts.index.get(place.part)
  return toScreen(view.camera, p === undefined ? place.at : apply(partMap(model.frame, p), place.at))
}

function PinnedControl({ control, view }: { control: Control; view: StageView }) {
  const editor = useEditor()
  const arranging = useSession((s) => s.arranging)
  const at = placeOf(control, view)
  const { place } = control
  if (!at || place.on !== 'stage') return null
  const drag = (e: PointerEvent): void => {
    if (e.buttons !== 1) return
    const box = sure(sure(e.currentTarget.parentElement).parentElement).getBoundingClientRect()
    const canvas = toCanvas(view.camera, { x: e.clientX - box.left, y: e.clientY - box.top })
    const model = sure(view.model())
    const p = place.part === null ? undefined : model.rig.parts.index.get(place.part)
    const back = p === undefined ? null : invert(partMap(model.frame, p))
    const spot = back ? apply(back, canvas) : canvas
    if (useDocument.of(editor).getState().gesture === null) beginGesture(editor, `Place ${control.name}`)
    const round = (v: number): number => Math.round(v * 10) / 10
    updateGesture(editor, [edit(setControl, { control: { ...control, place: { ...place, at: { x: round(spot.x), y: round(spot.y) } } } })])
  }
  return (
    <div
      className="absolute flex -translate-x-1/2 -translate-y-1/2 flex-col items-center rounded-xl bg-panel/85 px-2 py-1 shadow-1"
      style={{ left: at.x, top: at.y }}
      onPointerDown={(e) => e.stopPropagation()}
    >
      <span className="max-w-28 truncate text-[11px]">{control.name}</span>
      <ControlWidget control={control} size={place.size} />
      {arranging && (
        <button
          type="button"
          aria-label={`Place ${control.name}`}
          className={`absolute inset-0 cursor-move rounded-xl shadow-[0_0_0_2px_var(--twine)] ${GRIP}`}
          onPointerDown={(e) => {
            e.stopPropagation()
            grip(e)
            selectControl(editor, control.id)
          }}
          onPointerMove={drag}
          onPointerUp={() => useDocument.of(editor).getState().gesture !== null && commitGesture(editor)}
          onPointerCancel={() => cancelGesture(editor)}
        />
      )}
    </div>
  )
}
