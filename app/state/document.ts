/**
 * The open puppet with its history. Everything that changes it goes through `perform` or a gesture.
 *
 * A gesture shows a preview on top of the history's puppet: every update starts from there again, so committing gives
 * one exact entry and cancelling drops the preview.
 */
import { create } from 'zustand'
import type { Puppet } from '@marionette/core/document/schema'
import { applyEdits, EditError, type Change, type Edit } from '@marionette/core/edit/command'
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
} from '@marionette/core/edit/history'
import { toast } from 'sonner'
import type { SaveState } from './saving/machine'

export type { SaveState } from './saving/machine'

interface DocumentState {
  history: History | null
  /** The history's puppet, or the preview of a gesture. */
  puppet: Puppet | null
  preview: { readonly puppet: Puppet; readonly change: Change } | null
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

export const useDocument = create<DocumentState>(() => CLOSED)

const { getState, setState } = useDocument

export interface Opened {
  readonly puppet: Puppet
  readonly revision: number
  readonly history?: History
  readonly hasUnsent?: boolean
  readonly conflict?: number | null
}

export function openDocument({ puppet, revision, history = startHistory(puppet), hasUnsent = false, conflict = null }: Opened): void {
  const save: SaveState =
    conflict !== null ? { kind: 'conflict', revision: conflict } : hasUnsent ? { kind: 'changed' } : { kind: 'saved', revision }
  setState((s) => ({ ...CLOSED, history, puppet: history.puppet, revision, save, openings: s.openings + 1, hasUnsent, conflict }))
}

export const closeDocument = (): void => setState((s) => ({ ...CLOSED, openings: s.openings }))

/** The open puppet. Throws outside an open document, where no tool can be in use. */
export function openPuppet(): Puppet {
  const { puppet } = getState()
  if (!puppet) throw new Error('No puppet is open.')
  return puppet
}

function settle(history: History): void {
  if (history === getState().history) return
  // A conflict stays one until the person has decided.
  setState((s) => ({
    history,
    puppet: history.puppet,
    preview: null,
    gesture: null,
    save: s.save.kind === 'conflict' ? s.save : { kind: 'changed' },
  }))
}

/** Runs work that may be refused; a refusal is shown and changes nothing. */
function orRefuse<T>(work: () => T): T | null {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof EditError)) throw error
    toast.error(error.message)
    return null
  }
}

/** Makes other edits of edits before they are applied, as recording does; `apply` tells what they would make of the puppet. */
export type Redirect = (
  puppet: Puppet,
  edits: readonly Edit[],
  apply: (puppet: Puppet, edits: readonly Edit[]) => Puppet,
) => readonly Edit[]

let redirect: Redirect = (_, edits) => edits
export const redirectEdits = (by: Redirect): void => void (redirect = by)

const redirected = (puppet: Puppet, edits: readonly Edit[]): readonly Edit[] => redirect(puppet, edits, (p, e) => applyEdits(p, e).puppet)

const labelOf = (edits: readonly Edit[], label?: string): string => label ?? edits.at(-1)?.command.label ?? 'Nothing'

/** Applies edits as one history entry; tells whether they were accepted. */
export function perform(edits: readonly Edit[], label?: string): boolean {
  const { history } = getState()
  if (!history) return false
  const next = orRefuse(() => performOn(history, redirected(history.puppet, edits), labelOf(edits, label)))
  if (next) settle(next)
  return next !== null
}

/** Makes one entry of all that was done since a number of changes was in force. */
export function joinSince(since: number, label: string): void {
  const { history } = getState()
  if (history && history.done > since) settle(joinChanges(history, since, label))
}

/** Walks back to where a number of changes was in force, and forgets what came after. */
export function backTo(since: number): void {
  const { history } = getState()
  if (!history || history.done <= since) return
  const back = walkOn(history, since)
  settle({ ...back, changes: back.changes.slice(0, since) })
}

export const beginGesture = (label: string): void => setState({ gesture: label, preview: null })

/** Shows what the gesture would do so far. A refused step leaves the last good preview. */
export function updateGesture(edits: readonly Edit[]): void {
  const { history, gesture } = getState()
  if (!history || gesture === null) return
  try {
    const preview = applyEdits(history.puppet, redirected(history.puppet, edits), gesture)
    setState({ preview, puppet: preview.puppet })
  } catch (error) {
    if (!(error instanceof EditError)) throw error
  }
}

export function commitGesture(): void {
  const { history, preview } = getState()
  if (history && preview) settle(record(history, preview.puppet, preview.change))
  setState((s) => ({ gesture: null, preview: null, puppet: s.history?.puppet ?? null }))
}

export const cancelGesture = (): void => setState((s) => ({ gesture: null, preview: null, puppet: s.history?.puppet ?? null }))

const walk = (step: (history: History) => History): void => {
  const { history, gesture } = getState()
  if (history && gesture === null) settle(step(history))
}

/** Ends a gesture: keeps what it shows, or drops it. */
export const endGesture = (kept: boolean): void => (kept ? commitGesture() : cancelGesture())

export const undo = (): void => walk(undoOn)
export const redo = (): void => walk(redoOn)
export const walkTo = (done: number): void => walk((h) => walkOn(h, done))

export const useCanUndo = (): boolean => useDocument((s) => s.history !== null && canUndo(s.history))
export const useCanRedo = (): boolean => useDocument((s) => s.history !== null && canRedo(s.history))

/** A slice of the open puppet; components that use it live inside an open editor. */
export const usePuppet = <T>(pick: (puppet: Puppet) => T): T => useDocument((s) => pick(s.puppet!))

/** The open puppet, taken anew only when its parts or bones changed: a drag of the pose draws nothing again. */
export function useRestOf(): Puppet {
  usePuppet((p) => p.parts)
  usePuppet((p) => p.bones)
  return openPuppet()
}
