/**
 * The open puppet with its history. Everything that changes it goes through `perform` or a gesture.
 *
 * A gesture shows a preview on top of the history's puppet: every update starts from there again, so committing gives
 * one exact entry and cancelling drops the preview.
 */
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyEdits, type HistoryEntry } from '@marionette/core/puppet/edit'
import {
  canRedo,
  canUndo,
  joinChanges,
  perform as performOn,
  record,
  redo as redoOn,
  startHistory,
  undo as undoOn,
  walkTo as walkOn,
  type History,
} from '@marionette/core/puppet/history'
import type { SaveState } from './saving/machine'
import { type Edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import { useEditor, editorState, editorStore, type Editor } from './editor'
import { sure } from '@marionette/core/kernel/sure'

export type { SaveState } from './saving/machine'

interface DocumentState {
  history: History | null
  /** The history's puppet, or the preview of a gesture. */
  puppet: Puppet | null
  preview: { readonly puppet: Puppet; readonly change: HistoryEntry } | null
  gesture: string | null
  /** Revision on which the next save is based. */
  revision: number
  save: SaveState
  /** Counts documents that were opened: another one is no edit of the one before. */
  openings: number
  /** As it was opened: whether it holds edits that the server does not have, and the server's revision in a conflict. */
  hasUnsent: boolean
  conflict: number | null
}

const CLOSED: DocumentState = {
  history: null,
  puppet: null,
  preview: null,
  gesture: null,
  revision: 0,
  save: { kind: 'saved', revision: 0 },
  openings: 0,
  hasUnsent: false,
  conflict: null,
}

export const useDocument = editorStore<DocumentState>(() => CLOSED)

export interface Opened {
  readonly puppet: Puppet
  readonly revision: number
  readonly history?: History
  readonly hasUnsent?: boolean
  readonly conflict?: number | null
}

export function openDocument(
  editor: Editor,
  { puppet, revision, history = startHistory(puppet), hasUnsent = false, conflict = null }: Opened,
): void {
  const save: SaveState =
    conflict !== null ? { kind: 'conflict', revision: conflict } : hasUnsent ? { kind: 'changed' } : { kind: 'saved', revision }
  useDocument
    .of(editor)
    .setState((s) => ({ ...CLOSED, history, puppet: history.puppet, revision, save, openings: s.openings + 1, hasUnsent, conflict }))
}

export const closeDocument = (editor: Editor): void => useDocument.of(editor).setState((s) => ({ ...CLOSED, openings: s.openings }))

/** The open puppet. Throws outside an open document, where no tool can be in use. */
export function openPuppet(editor: Editor): Puppet {
  const { puppet } = useDocument.of(editor).getState()
  if (!puppet) throw new Error('No puppet is open.')
  return puppet
}

function settle(editor: Editor, history: History): void {
  if (history === useDocument.of(editor).getState().history) return
  // A conflict stays one until the person has decided.
  useDocument.of(editor).setState((s) => ({
    history,
    puppet: seenOf(editor, history.puppet),
    preview: null,
    gesture: null,
    save: s.save.kind === 'conflict' ? s.save : { kind: 'changed' },
  }))
}

/** Runs work that may be refused; a refusal is shown and changes nothing. */
function orRefuse<T>(editor: Editor, work: () => T): T | null {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof EditError)) throw error
    editor.notify.error(error.message)
    return null
  }
}

/** Makes other edits of edits before they are applied, as recording does; `apply` tells what they would make of the puppet. */
export type Redirect = (
  puppet: Puppet,
  edits: readonly Edit[],
  apply: (puppet: Puppet, edits: readonly Edit[]) => Puppet,
) => readonly Edit[]

/** A layer around all edits: while it is on, it makes others of them. */
export interface EditLayer {
  readonly isOn: () => boolean
  readonly redirect: Redirect
  /** What is seen of a puppet meanwhile, as a moment of a clip; the puppet itself where this is left out. The same for the same puppet. */
  readonly seen?: (puppet: Puppet) => Puppet
}

interface Own {
  readonly layers: Set<EditLayer>
}

const stateOf = editorState((): Own => ({ layers: new Set() }))

/** Lays a layer around all edits; returns how to take it away. Of several that are on, the first one counts. */
export function layAround(editor: Editor, by: EditLayer): () => void {
  const { layers } = stateOf(editor)
  layers.add(by)
  return () => void layers.delete(by)
}

const layerNow = (editor: Editor): EditLayer | undefined => [...stateOf(editor).layers].find((layer) => layer.isOn())

/** Whether edits are made into others while what is seen stays: the pose does then, whatever is done. */
export function areEditsRedirected(editor: Editor): boolean {
  const layer = layerNow(editor)
  return layer !== undefined && layer.seen === undefined
}

const redirected = (editor: Editor, puppet: Puppet, edits: readonly Edit[]): readonly Edit[] =>
  layerNow(editor)?.redirect(puppet, edits, (p, e) => applyEdits(p, e).puppet) ?? edits

/** What is seen of the puppet of the history, or of a preview of it. */
const seenOf = (editor: Editor, puppet: Puppet): Puppet => layerNow(editor)?.seen?.(puppet) ?? puppet

/** Looks anew at what is seen: another moment of a clip is, or none any more. */
export function lookAnew(editor: Editor): void {
  const { history, preview, puppet } = useDocument.of(editor).getState()
  if (!history) return
  const seen = seenOf(editor, preview?.puppet ?? history.puppet)
  if (seen !== puppet) useDocument.of(editor).setState({ puppet: seen })
}

const labelOf = (edits: readonly Edit[], label?: string): string => label ?? edits.at(-1)?.command.label ?? 'Nothing'

/** Applies edits as one history entry; tells whether they were accepted. */
export function perform(editor: Editor, edits: readonly Edit[], label?: string): boolean {
  const { history } = useDocument.of(editor).getState()
  if (!history) return false
  const next = orRefuse(editor, () => performOn(history, redirected(editor, history.puppet, edits), labelOf(edits, label)))
  if (next) settle(editor, next)
  return next !== null
}

/** Makes one entry of all that was done since a number of changes was in force. */
export function joinSince(editor: Editor, since: number, label: string): void {
  const { history } = useDocument.of(editor).getState()
  if (history && history.done > since) settle(editor, joinChanges(history, since, label))
}

/** Walks back to where a number of changes was in force, and forgets what came after. */
export function backTo(editor: Editor, since: number): void {
  const { history } = useDocument.of(editor).getState()
  if (!history || history.done <= since) return
  const back = walkOn(history, since)
  settle(editor, { ...back, changes: back.changes.slice(0, since) })
}

export const beginGesture = (editor: Editor, label: string): void => useDocument.of(editor).setState({ gesture: label, preview: null })

/** Shows what the gesture would do so far. A refused step leaves the last good preview. */
export function updateGesture(editor: Editor, edits: readonly Edit[]): void {
  const { history, gesture } = useDocument.of(editor).getState()
  if (!history || gesture === null) return
  try {
    const preview = applyEdits(history.puppet, redirected(editor, history.puppet, edits), gesture)
    useDocument.of(editor).setState({ preview, puppet: seenOf(editor, preview.puppet) })
  } catch (error) {
    if (!(error instanceof EditError)) throw error
  }
}

export function commitGesture(editor: Editor): void {
  const { history, preview } = useDocument.of(editor).getState()
  if (history && preview) settle(editor, record(history, preview.puppet, preview.change))
  useDocument.of(editor).setState((s) => ({ gesture: null, preview: null, puppet: s.history && seenOf(editor, s.history.puppet) }))
}

export const cancelGesture = (editor: Editor): void =>
  useDocument.of(editor).setState((s) => ({ gesture: null, preview: null, puppet: s.history && seenOf(editor, s.history.puppet) }))

const walk = (editor: Editor, step: (history: History) => History): void => {
  const { history, gesture } = useDocument.of(editor).getState()
  if (history && gesture === null) settle(editor, step(history))
}

/** Ends a gesture: keeps what it shows, or drops it. */
export const endGesture = (editor: Editor, kept: boolean): void => (kept ? commitGesture(editor) : cancelGesture(editor))

export const undo = (editor: Editor): void => walk(editor, undoOn)
export const redo = (editor: Editor): void => walk(editor, redoOn)
export const walkTo = (editor: Editor, done: number): void => walk(editor, (h) => walkOn(h, done))

export const useCanUndo = (): boolean => useDocument((s) => s.history !== null && canUndo(s.history))
export const useCanRedo = (): boolean => useDocument((s) => s.history !== null && canRedo(s.history))

/** A slice of the open puppet; components that use it live inside an open editor. */
export const usePuppet = <T>(pick: (puppet: Puppet) => T): T => useDocument((s) => pick(sure(s.puppet)))

/** The open puppet, taken anew only when its parts or bones changed: a drag of the pose draws nothing again. */
export function useRestOf(): Puppet {
  const editor = useEditor()
  usePuppet((p) => p.parts)
  usePuppet((p) => p.bones)
  return openPuppet(editor)
}
