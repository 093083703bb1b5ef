/** Looking through the camera: what a film would show, in place of the usual view of the stage. */
import { VideoOff } from 'lucide-react'
import { useEffect } from 'react'
import { cameraMap } from '@marionette/core/staging/camera'
import { usePuppet } from '../../editor/document'
import { editorStore, useEditor, type Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import type { LensNow } from '../../stage/lens'
import type { StageView } from '../../stage/stageView'
import { Button } from '../../ui/Button'
import { shotNow } from './stageMarks'

export const useLooking = editorStore<{ readonly isThrough: boolean }>(() => ({ isThrough: false }))

export const lookThroughCamera = (editor: Editor, isThrough: boolean): void => useLooking.of(editor).setState({ isThrough })

const BENCHES = new Set(['rehearse', 'send'])

export const cameraLens: LensNow = (editor) => {
  if (!useLooking.of(editor).getState().isThrough || !BENCHES.has(useSession.of(editor).getState().bench)) return null
  const shot = shotNow(editor)
  return shot && { map: cameraMap(shot), width: shot.width, height: shot.height }
}

/** Over the stage meanwhile: nothing under it is posed by mistake, and one press leads back. */
export function LookingBar({ view }: { view: StageView }) {
  const editor = useEditor()
  const isThrough = useLooking((s) => s.isThrough)
  const hasCamera = usePuppet((p) => p.stage.camera !== null)
  const isHere = useSession((s) => BENCHES.has(s.bench))
  const isOn = isThrough && hasCamera && isHere
  useEffect(() => view.invalidate(true), [view, isOn])
  useEffect(() => {
    if (!isOn) return
    const leave = (e: KeyboardEvent): void => {
      if (e.key !== 'Escape') return
      e.stopImmediatePropagation()
      lookThroughCamera(editor, false)
    }
    window.addEventListener('keydown', leave, true)
    return () => window.removeEventListener('keydown', leave, true)
  }, [editor, isOn])
  if (!isOn) return null
  return (
    <div
      className="absolute inset-0 z-10 cursor-default"
      data-testid="looking"
      onPointerDown={(e) => e.stopPropagation()}
      onWheel={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      <div className="absolute top-2.5 right-3 flex items-center gap-2 rounded-full bg-panel py-1 pr-1 pl-3 shadow-1">
        <span className="text-xs font-semibold">Through the camera</span>
        <Button small onClick={() => lookThroughCamera(editor, false)}>
          <VideoOff size={13} /> Leave
        </Button>
      </div>
    </div>
  )
}
