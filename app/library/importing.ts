/** Taking files in: into the library as puppets, or into the open puppet as artwork. */
import { create } from 'zustand'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import type { Drawing, Ink, Line, Part, Puppet } from '@marionette/core/document/schema'
import { partsBelow } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { perform, startHistory } from '@marionette/core/edit/history'
import { foldGroups } from '@marionette/core/edit/nesting'
import { addArtwork } from '@marionette/core/edit/parts'
import { setCanvas } from '@marionette/core/edit/puppet'
import type { ReadPuppet } from '@marionette/formats/read'
import type { Nesting } from '@marionette/formats/svg/import'
import type { Warning } from '@marionette/formats/warnings'
import { importPuppet, savePuppet, type PuppetSummary } from '../state/api'
import { sendAssets } from '../state/assets'
import { openPuppet, perform as performHere } from '../state/document'
import { keep } from '../state/keep'
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

/** Reads a file in a worker and sends its pictures to the library; null where it was refused or cancelled. */
async function readFile(file: File): Promise<ReadPuppet | null> {
  const abort = new AbortController()
  useImport.setState({ reading: file.name, cancel: () => abort.abort() })
  try {
    const read = await readInWorker(new Uint8Array(await file.arrayBuffer()), file.name, abort.signal)
    await sendAssets(read.assets)
    if (read.warnings.length > 0) useImport.setState({ report: { name: file.name, warnings: read.warnings } })
    return read
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
    const read = await readFile(file)
    if (!read) continue
    try {
      added.push(await addToLibrary(read))
    } catch (error) {
      toast.error(`${file.name}: ${(error as Error).message}`)
    }
  }
  return added
}

const foldLabel = ({ groups }: Nesting): string => (groups.length === 1 ? 'Fold a nested group' : `Fold ${groups.length} nested groups`)

/** Adds a puppet; folding its nested groups is the first step of its history, so that it can be undone. */
async function addToLibrary({ puppet, nesting }: ReadPuppet): Promise<PuppetSummary> {
  const summary = await importPuppet(puppet)
  if (!nesting || nesting.groups.length === 0) return summary
  const added = { ...puppet, id: summary.id }
  const folded = perform(startHistory(added), [edit(foldGroups, nesting)], foldLabel(nesting))
  const saved = await savePuppet(folded.puppet, summary.revision)
  await keep(folded, saved.revision, true)
  return saved
}

/** Adds a drawing to the open puppet as a group on top; an empty puppet takes over the drawing's canvas. */
export async function importInto(file: File): Promise<void> {
  const read = await readFile(file)
  if (!read) return
  const drawing = read.puppet
  const puppet = openPuppet()
  const isEmpty = Object.keys(puppet.drawings).length === 0
  const { parts, drawings, renamed } = withFreshIds(drawing, puppet.views[0]!.id)
  const { width, height } = drawing.canvas
  const edits = [edit(addArtwork, { parent: puppet.root, parts, drawings })]
  if (isEmpty) edits.push(edit(setCanvas, { width, height, background: puppet.canvas.background }))
  if (!performHere(edits, `Add ${drawing.name}`)) return
  selectParts(parts[0]!.id)
  const { nesting } = read
  if (nesting && nesting.groups.length > 0)
    performHere([edit(foldGroups, { groups: nesting.groups.map(renamed), named: nesting.named.map(renamed) })], foldLabel(nesting))
}

/** Parts and drawings of a file with ids given anew, so that the same drawing can be added twice. */
function withFreshIds(drawing: Puppet, view: string): { parts: Part[]; drawings: Drawing[]; renamed: (id: string) => string } {
  const ids = new Map([...Object.keys(drawing.parts), ...Object.keys(drawing.drawings)].map((id) => [id, freshId('art')]))
  const renamed = (id: string): string => ids.get(id)!
  const parts = partsBelow(drawing, drawing.root).map((part) => ({
    ...part,
    id: renamed(part.id),
    parent: part.parent === null ? null : renamed(part.parent),
    children: [],
    bind: null,
    masks: part.masks.map((m) => ({ ...m, shape: renamed(m.shape) })),
    art: Object.fromEntries(Object.values(part.art).map((d) => [view, renamed(d)])),
  }))
  const repainted = <T extends Ink | Line>(use: T | null): T | null =>
    use?.paint.kind === 'pattern' ? { ...use, paint: { ...use.paint, drawing: renamed(use.paint.drawing) } } : use
  const drawings = Object.values(drawing.drawings).map((d) => ({
    id: renamed(d.id),
    shapes: d.shapes.map((s) => ({ ...s, ink: repainted(s.ink), line: repainted(s.line) })),
  }))
  return { parts, drawings, renamed }
}

export const isDrawing = (file: File): boolean => /\.svg$/i.test(file.name) || file.type === 'image/svg+xml'
