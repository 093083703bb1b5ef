/** What an empty puppet begins with: artwork, a picture to draw after, or a drawing of one's own. */
import { FileUp, Image, PenLine } from 'lucide-react'
import { lazy, Suspense } from 'react'
import { useNavigate } from 'react-router'
import { READABLE_ENDINGS } from '@marionette/formats/endings'
import { openPuppet, usePuppet } from '../editor/document'
import { useEditor } from '../editor/editor'
import { setTool, useSession } from '../editor/session'
import { importInto } from '../features/library/importing'
import { REFERENCES, takeReference } from '../features/puppet/reference'
import { Button } from '../ui/Button'
import { FileButton } from '../ui/FileButton'

const FigureMenu = lazy(() => import('../features/templates/FigureMenu'))

export function EmptyStage() {
  const editor = useEditor()
  const navigate = useNavigate()
  const isEmpty = usePuppet((p) => Object.keys(p.drawings).length + Object.keys(p.pictures).length === 0)
  const hasBones = usePuppet((p) => p.skeleton.length > 0)
  // Where one draws, nothing may lie in the way; a skeleton is drawn over.
  const isDrawing = useSession((s) => s.bench === 'shape' || (s.bench === 'bones' && hasBones))
  if (!isEmpty || isDrawing) return null
  const draw = (): void => {
    setTool(editor, 'shape', 'pen')
    void navigate(`/puppet/${openPuppet(editor).id}/shape`)
  }
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center pb-16">
      <div className="max-w-xl text-center">
        <h2 className="font-display text-[26px]/8 font-semibold">An empty stage</h2>
        <p className="mx-auto mt-2 max-w-sm text-quiet">
          Drop layered artwork here: SVG, OpenRaster, PSD or pictures. Layers become parts and keep their names and places.
        </p>
        <div className="pointer-events-auto mt-4 flex justify-center gap-2">
          <FileButton accept={READABLE_ENDINGS.join(',')} isMany onFiles={(files) => void importInto(editor, files)}>
            <FileUp size={15} /> Choose artwork
          </FileButton>
          <FileButton accept={REFERENCES} onFiles={([file]) => void takeReference(editor, file)}>
            <Image size={15} /> Reference picture
          </FileButton>
          <Button onClick={draw}>
            <PenLine size={15} /> Draw
          </Button>
          {!hasBones && (
            <Suspense>
              <FigureMenu />
            </Suspense>
          )}
        </div>
      </div>
    </div>
  )
}
