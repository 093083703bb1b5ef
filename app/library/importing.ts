/** Taking files in: into the library as puppets, or into the open puppet as artwork. */
import { create } from 'zustand'
import { toast } from 'sonner'
import { freshId } from '@marionette/core/document/ids'
import type { Drawing, Ink, Line, Part, Puppet } from '@marionette/core/document/schema'
import { partsBelow } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { foldGroups, foldLabel } from '@marionette/core/edit/nesting'
import { addArtwork } from '@marionette/core/edit/parts'
import { setCanvas } from '@marionette/core/edit/puppet'
import type { Warning } from '@marionette/formats/warnings'
import type { PuppetSummary } from '../state/api'
import { sendAssets } from '../state/assets'
import { openPuppet, perform } from '../state/document'
import { selectParts } from '../state/session'
import { Cancelled, readInWorker, takeInWorker } from '../workers/client'

interface ImportState {
  /** Name of the file being read. */
  readonly reading: string | null
  readonly cancel: (() => void) | null
  /** Findings of the last import that had any. */
  readonly report: { readonly name: string; readonly warnings: readonly Warning[] } | null
}

export const useImport = create<ImportState>(() => ({ reading: null, cancel: null, report: null }))

/** Runs work on a file with its name shown and a way to cancel; a failure is said, and gives null. */
async function onFile<T>(file: File, work: (bytes: Uint8Array, signal: AbortSignal) => Promise<T>): Promise<T | null> {
  const abort = new AbortController()
  useImport.setState({ reading: file.name, cancel: () => abort.abort() })
  try {
    return await work(new Uint8Array(await file.arrayBuffer()), abort.signal)
  } catch (error) {
    if (!(error instanceof Cancelled)) toast.error(`${file.name}: ${(error as Error).message}`, { duration: 8000 })
    return null
  } finally {
    useImport.setState({ reading: null, cancel: null })
  }
}

function report(name: string, warnings: readonly Warning[]): void {
  if (warnings.length > 0) useImport.setState({ report: { name, warnings } })
}

/** Adds each file to the library as a puppet; returns those that could be read. */
export async function importFiles(files: readonly File[]): Promise<PuppetSummary[]> {
  const added: PuppetSummary[] = []
  for (const file of files) {
    const taken = await onFile(file, (bytes, signal) => takeInWorker(bytes, file.name, signal))
    if (!taken) continue
    report(file.name, taken.warnings)
    added.push(taken.puppet)
  }
  return added
}

/** Adds a drawing to the open puppet as a group on top; an empty puppet takes over the drawing's canvas. */
export async function importInto(file: File): Promise<void> {
  const read = await onFile(file, async (bytes, signal) => {
    const found = await readInWorker(bytes, file.name, signal)
    await sendAssets(found.assets)
    return found
  })
  if (!read) return
  report(file.name, read.warnings)
  const drawing = read.puppet
  const puppet = openPuppet()
  const isEmpty = Object.keys(puppet.drawings).length === 0
  const { parts, drawings, renamed } = withFreshIds(drawing, puppet.views[0]!.id)
  const { width, height } = drawing.canvas
  const edits = [edit(addArtwork, { parent: puppet.root, parts, drawings })]
  if (isEmpty) edits.push(edit(setCanvas, { width, height, background: puppet.canvas.background }))
  if (!perform(edits, `Add ${drawing.name}`)) return
  selectParts(parts[0]!.id)
  const { nesting } = read
  if (nesting && nesting.groups.length > 0)
    perform(
      [edit(foldGroups, { groups: nesting.groups.map(renamed), named: nesting.named.map(renamed) })],
      foldLabel(nesting.groups.length),
    )
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
