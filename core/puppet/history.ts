/**
 * Undo and redo.
 *
 * History is an immutable value: the changes made so far and how many of them are in force. It stores patches and
 * knows no command. A gesture (one drag) is previewed on top of a base that stays as it was: each move applies its
 * absolute targets to the base again, so that the gesture ends as one change whose inverse is exact, and cancelling
 * it is dropping the preview.
 */
import type { Puppet } from './schema'
import { applyEdits, redoChange, undoChange, type HistoryEntry } from './edit'
import type { Edit } from '../kernel/command'
import { nth } from '../kernel/sure'

/** A puppet, the changes that led to it, and how many of them are in force. */
export interface History {
  readonly puppet: Puppet
  readonly changes: readonly HistoryEntry[]
  /** Changes in force: changes[0..done) are applied, the rest can be redone. */
  readonly done: number
}

/** Older changes than this are forgotten. */
export const HISTORY_LENGTH = 500

/** A history without changes. */
export const startHistory = (puppet: Puppet): History => ({ puppet, changes: [], done: 0 })

/** Adds a change that was already applied. A change without patches leaves no entry. */
export function record(history: History, puppet: Puppet, change: HistoryEntry): History {
  if (change.patches.length === 0) return history
  const kept = [...history.changes.slice(0, history.done), change].slice(-HISTORY_LENGTH)
  return { puppet, changes: kept, done: kept.length }
}

/** Applies edits as one entry. Throws EditError when one refuses; the history stays as it was. */
export function perform(history: History, edits: readonly Edit[], label?: string): History {
  const { puppet, change } = applyEdits(history.puppet, edits, label)
  return record(history, puppet, change)
}

/** Makes one change of all that are in force beyond the first `since`; what could be redone is forgotten. */
export function joinChanges(history: History, since: number, label: string): History {
  const joined = history.changes.slice(since, history.done)
  if (joined.length === 0) return history
  const change = {
    label,
    patches: joined.flatMap((c) => c.patches),
    inverse: [...joined].reverse().flatMap((c) => c.inverse),
  }
  const changes = [...history.changes.slice(0, since), change]
  return { ...history, changes, done: changes.length }
}

/** Whether a change can be taken back. */
export const canUndo = (history: History): boolean => history.done > 0

/** Whether a change can be made again. */
export const canRedo = (history: History): boolean => history.done < history.changes.length

/** Walks to the state in which `done` changes are in force; out-of-range targets stop at the ends. */
export function walkTo(history: History, done: number): History {
  const target = Math.min(history.changes.length, Math.max(0, done))
  let { puppet } = history
  for (let i = history.done; i < target; i++) puppet = redoChange(puppet, nth(history.changes, i))
  for (let i = history.done; i > target; i--) puppet = undoChange(puppet, nth(history.changes, i - 1))
  return { ...history, puppet, done: target }
}

/** Takes the last change back; the same history where there is none. */
export const undo = (history: History): History => walkTo(history, history.done - 1)

/** Makes the next change again; the same history where there is none. */
export const redo = (history: History): History => walkTo(history, history.done + 1)
