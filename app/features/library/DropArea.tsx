/** Takes dropped files: in the library as new puppets, in the editor as artwork of the open one. */
import { useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useRef, useState, type DragEvent, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { READABLE } from '@marionette/formats/fileNames'
import { readDrop, type Dropped } from './dropped'
import { importFiles, importInto, isArtwork, useImport } from './importing'
import { useEditor } from '../../editor/editor'

const ImportNotes = lazy(() => import('./ImportNotes'))
const TogetherSheet = lazy(() => import('./TogetherSheet'))

interface DropAreaProps {
  /** Id of the open puppet; without it files become puppets. */
  readonly into?: string
  readonly className: string
  readonly children: ReactNode
}

export function DropArea({ into, className, children }: DropAreaProps) {
  const editor = useEditor()
  const [isOver, setOver] = useState(false)
  const depth = useRef(0)
  const isNoted = useImport((s) => s.reading !== null || s.report !== null)
  const isAsked = useImport((s) => s.question !== null)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const hasFiles = (e: DragEvent): boolean => e.dataTransfer.types.includes('Files')
  const drop = async ({ files: all, folder }: Dropped): Promise<void> => {
    // A folder holds all sorts of things; of several files only those that can be read are taken.
    const files = all.length > 1 ? all.filter((f) => READABLE.test(f.name)) : all
    if (all.length > 1 && files.length === 0) return void editor.notify.error('There is nothing in it that can be read.')
    if (into && files.every(isArtwork)) return importInto(editor, files)
    if (!into && files.length > 1 && files.every(isArtwork)) return useImport.of(editor).setState({ question: { files, folder } })
    const added = await importFiles(editor, files)
    await queries.invalidateQueries({ queryKey: ['puppets'] })
    for (const { id, name } of added) {
      editor.notify.success(`${name} is in the library.`, {
        action: { label: 'Open', onClick: () => void navigate(`/puppet/${id}/parts`) },
      })
    }
  }
  return (
    <div
      className={`relative ${className}`}
      onDragEnter={(e) => {
        if (!hasFiles(e)) return
        depth.current++
        setOver(true)
      }}
      onDragOver={(e) => hasFiles(e) && e.preventDefault()}
      onDragLeave={() => {
        depth.current = Math.max(0, depth.current - 1)
        if (depth.current === 0) setOver(false)
      }}
      onDrop={(e) => {
        if (!hasFiles(e)) return
        e.preventDefault()
        depth.current = 0
        setOver(false)
        void readDrop(e.dataTransfer).then(drop)
      }}
    >
      {children}
      {isOver && (
        <div className="pointer-events-none absolute inset-3 z-30 grid place-items-center rounded-2xl border-2 border-dashed border-cord bg-[color-mix(in_srgb,var(--paper)_82%,transparent)]">
          <p className="font-display text-[22px] font-semibold">{into ? 'Drop to add it to this puppet' : 'Drop to make a puppet of it'}</p>
        </div>
      )}
      <Suspense>
        {isNoted && <ImportNotes />}
        {isAsked && <TogetherSheet />}
      </Suspense>
    </div>
  )
}
