/** Taking files in: into the library as puppets, or into the open puppet as artwork. */
import { create } from 'zustand'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import type { Puppet } from '@marionette/core/document/schema'
import { partsBelow } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { addArtwork } from '@marionette/core/edit/parts'
import { setCanvas } from '@marionette/core/edit/puppet'
import type { Warning } from '@marionette/formats/warnings'
import { importPuppet, type PuppetSummary } from '../state/api'
import { openPuppet, perform } from '../state/document'
import { selectParts } from '../state/session'
import { Cancelled, readInWorker } from '../workers/client'

interface ImportState {
  /** Name of the file being read. */
  readonly reading: string | null
  readonly cancel: (() => void) | null
  /** Findings of the last import that had any. */
  readonly report: { readonly name: string; readonly warnings: readonly Warning[] } | null
}

export const useImport = create<ImportState>(() => ({ reading: null, cancel: null, report: null }))

async function readFile(file: File): Promise<Puppet | null> {
  const abort = new AbortController()
  useImport.setState({ reading: file.name, cancel: () => abort.abort() })
  try {
    const { puppet, warnings } = await readInWorker(new Uint8Array(await file.arrayBuffer()), file.name, abort.signal)
    if (warnings.length > 0) useImport.setState({ report: { name: file.name, warnings } })
    return puppet
  } catch (error) {
    if (!(error instanceof Cancelled)) toast.error(`${file.name}: ${(error as Error).message}`, { duration: 8000 })
    return null
  } finally {
    useImport.setState({ reading: null, cancel: null })
  }
}

/** Adds each file to the library as a puppet; returns those that could be read. */
export async function importFiles(files: readonly File[]): Promise<PuppetSummary[]> {
  const added: PuppetSummary[] = []
  for (const file of files) {
    const puppet = await readFile(file)
    if (!puppet) continue
    try {
      added.push(await importPuppet(puppet))
    } catch (error) {
      toast.error(`${file.name}: ${(error as Error).message}`)
    }
  }
  return added
}

/** Adds a drawing to the open puppet as a group on top; an empty puppet takes over the drawing's canvas. */
export async function importInto(file: File): Promise<void> {
  const drawing = await readFile(file)
  if (!drawing) return
  const puppet = openPuppet()
  const isEmpty = Object.keys(puppet.drawings).length === 0
  // Ids of the file are given anew, so that the same drawing can be added twice.
  const ids = new Map([...Object.keys(drawing.parts), ...Object.keys(drawing.drawings)].map((id) => [id, freshId('art')]))
  const parts = partsBelow(drawing, drawing.root).map((part) => ({
    ...part,
    id: ids.get(part.id)!,
    parent: part.parent === null ? null : ids.get(part.parent)!,
    children: [],
    bind: null,
    art: Object.fromEntries(Object.values(part.art).map((d) => [puppet.views[0]!.id, ids.get(d)!])),
  }))
  const drawings = Object.values(drawing.drawings).map((d) => ({ ...d, id: ids.get(d.id)! }))
  const { width, height } = drawing.canvas
  const edits = [edit(addArtwork, { parent: puppet.root, parts, drawings })]
  if (isEmpty) edits.push(edit(setCanvas, { width, height, background: puppet.canvas.background }))
  if (perform(edits, `Add ${drawing.name}`)) selectParts(parts[0]!.id)
}

export const isDrawing = (file: File): boolean => /\.svg$/i.test(file.name) || file.type === 'image/svg+xml'
