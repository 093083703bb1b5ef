/** Taking files in: into the library as puppets, or into the open puppet as artwork. */
import { freshId } from '@marionette/core/kernel/ids'
import { renameDrawing } from '@marionette/core/artwork/rename'
import type { Drawing, Part, Picture, Puppet } from '@marionette/core/puppet/schema'
import { partsBelow } from '@marionette/core/parts/tree'
import { run } from '@marionette/core/puppet/edit'
import { foldGroups, foldLabel } from '@marionette/core/parts/nesting'
import { setCanvas, setGuides, setNaming } from '@marionette/core/puppet/puppetCommands'
import { heavyGroups, type HeavyGroup } from '@marionette/core/reports/heavy'
import type { Progress } from '@marionette/formats/layers/import'
import { READABLE } from '@marionette/formats/fileNames'
import type { Warning } from '@marionette/formats/warnings'
import { loadPuppet, savePuppet, type PuppetSummary } from '../../storage/api'
import { sendAssets } from '../../editor/assets'
import { openPuppet, perform, useDocument } from '../../editor/document'
import { selectParts } from '../../editor/session'
import { Cancelled } from '../../jobs/client'
import { edit } from '@marionette/core/kernel/command'
import type { Naming } from '@marionette/core/roles/records'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { editorStore, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

interface ImportReport {
  readonly name: string
  readonly warnings: readonly Warning[]
  readonly heavy: readonly HeavyGroup[]
  /** A stored puppet whose names of sides are to be settled. */
  readonly sides: { readonly puppet: string; readonly naming: Naming; readonly isCertain: boolean } | null
}

interface ImportState {
  /** Name of the file being read, how far that is, and at what. */
  readonly reading: string | null
  readonly done: number
  readonly what: string
  readonly cancel: (() => void) | null
  /** Findings of the last import that had any. */
  readonly report: ImportReport | null
  /** Files that were dropped together, waiting for the answer whether they are one puppet. */
  readonly question: { readonly files: readonly File[]; readonly folder: string | null } | null
}

const QUIET = { reading: null, done: 0, what: '', cancel: null }

export const useImport = editorStore<ImportState>(() => ({ ...QUIET, report: null, question: null }))

type Work<T> = (files: readonly File[], progress: Progress, signal: AbortSignal) => Promise<T>

/** Runs work on files with its progress shown and a way to cancel; a failure is said, and gives null. */
export async function onFiles<T>(editor: Editor, files: readonly File[], name: string, work: Work<T>): Promise<T | null> {
  const abort = new AbortController()
  useImport.of(editor).setState({ reading: name, done: 0, what: '', cancel: () => abort.abort() })
  try {
    return await work(files, (done, what) => useImport.of(editor).setState({ done, what }), abort.signal)
  } catch (error) {
    if (!(error instanceof Cancelled)) editor.notify.error(`${name}: ${(error as Error).message}`, { duration: 8000 })
    return null
  } finally {
    useImport.of(editor).setState(QUIET)
  }
}

function report(editor: Editor, found: ImportReport): void {
  const isOpenQuestion = found.sides !== null && !found.sides.isCertain
  if (found.warnings.length > 0 || found.heavy.length > 0 || isOpenQuestion) useImport.of(editor).setState({ report: found })
}

/** Adds each file to the library as a puppet; returns those that could be read. */
export async function importFiles(editor: Editor, files: readonly File[]): Promise<PuppetSummary[]> {
  const added: PuppetSummary[] = []
  for (const file of files) {
    const puppet = await importAs(editor, [file], file.name)
    if (puppet) added.push(puppet)
  }
  return added
}

/** Adds files to the library as one puppet. */
export async function importAs(editor: Editor, files: readonly File[], name: string): Promise<PuppetSummary | null> {
  const taken = await onFiles(editor, files, name, (named, progress, signal) => editor.jobs.take(named, name, progress, signal))
  if (!taken) return null
  const { puppet, warnings, heavy, sides } = taken
  report(editor, { name, warnings, heavy, sides: sides && { puppet: puppet.id, ...sides } })
  return puppet
}

/** Adds artwork to the open puppet as a group on top; an empty puppet takes over the canvas and the naming convention. */
export async function importInto(editor: Editor, files: readonly File[]): Promise<void> {
  const name = files.length === 1 ? nth(files, 0).name : `${files.length} files`
  const read = await onFiles(editor, files, name, async (named, progress, signal) => {
    const found = await editor.jobs.read(named, name, progress, signal)
    await sendAssets(editor, found.assets)
    return found
  })
  if (!read) return
  report(editor, { name, warnings: read.warnings, heavy: heavyGroups(read.puppet), sides: null })
  const artwork = read.puppet
  const puppet = openPuppet(editor)
  const isEmpty = Object.keys(puppet.parts).length === 1
  const { parts, drawings, pictures, renamed } = withFreshIds(artwork, puppet.view)
  const { width, height } = artwork.canvas
  const edits = [edit(addArtwork, { parent: puppet.root, parts, drawings, pictures })]
  if (isEmpty) {
    edits.push(edit(setCanvas, { width, height, background: puppet.canvas.background }), edit(setNaming, { naming: artwork.naming }))
    if (artwork.guides.length > 0) edits.push(edit(setGuides, { guides: artwork.guides }))
  }
  if (!perform(editor, edits, `Add ${artwork.name}`)) return
  selectParts(editor, nth(parts, 0).id)
  const { nesting } = read
  if (nesting && nesting.groups.length > 0)
    perform(
      editor,
      [edit(foldGroups, { groups: nesting.groups.map(renamed), named: nesting.named.map(renamed) })],
      foldLabel(nesting.groups.length),
    )
}

/** Gives a puppet a naming convention: in the editor where it is open, else in the library. Throws RequestError. */
export async function settleSides(editor: Editor, id: string, naming: Naming): Promise<void> {
  if (useDocument.of(editor).getState().puppet?.id === id) return void perform(editor, [edit(setNaming, { naming })])
  const { puppet, revision } = await loadPuppet(id)
  const saveId = `sides-${Date.now().toString(36)}`
  await savePuppet({ puppet: run(puppet, setNaming, { naming }), base: revision, saveId, wentBack: false })
}

/** Parts and drawings of a file with ids given anew, so that the same drawing can be added twice. */
interface Renewed {
  readonly parts: Part[]
  readonly drawings: Drawing[]
  readonly pictures: Picture[]
  readonly renamed: (id: string) => string
}

function withFreshIds(drawing: Puppet, view: string): Renewed {
  const ids = new Map(
    [...Object.keys(drawing.parts), ...Object.keys(drawing.drawings), ...Object.keys(drawing.pictures)].map((id) => [id, freshId('art')]),
  )
  const renamed = (id: string): string => sure(ids.get(id))
  const parts = partsBelow(drawing, drawing.root).map((part) => ({
    ...part,
    id: renamed(part.id),
    parent: part.parent === null ? null : renamed(part.parent),
    children: [],
    bind: null,
    masks: part.masks.map((m) => ({ ...m, shape: renamed(m.shape) })),
    art: Object.fromEntries(Object.values(part.art).map((d) => [view, renamed(d)])),
  }))
  const drawings = Object.values(drawing.drawings).map((d) => renameDrawing(d, renamed))
  const pictures = Object.values(drawing.pictures).map((p) => ({ ...p, id: renamed(p.id) }))
  return { parts, drawings, pictures, renamed }
}

/** Whether a file is artwork rather than a puppet of its own. */
export const isArtwork = (file: File): boolean => READABLE.test(file.name) && !/\.puppet$/i.test(file.name)
