/**
 * Saving as a machine: what happens, in whatever order, and what is to be done about it. It knows no clock, no network and no store.
 *
 * Every state of the document has a mark. What the server has, what the browser has kept and what is on its way are marks; saving is
 * done when the present one is that of the server. A state is sent once the browser has kept it: whatever arrives at the server, and
 * however late, is then part of what a page opened after a crash goes on with. Each save carries an id and the revision that it is
 * based on. An answer that never came says nothing: the save may have been done or not. So the next one is sent on the same base, and
 * where the server then says that it has moved on by a save of this page, we go on from there; only a save that nobody here sent is a
 * conflict.
 */
import { nth } from '@marionette/core/kernel/sure'

/** Stands for a state of the document; equal states may have equal marks. */
export type Mark = unknown

/** From the last edit on, ms: a save waits for more edits that follow at once. */
export const MOMENT = 700
/** From the first edit that is not saved on, ms: while somebody works on and on, a save goes out at the latest then. */
export const LATEST = 5000
/** Pauses between tries while the server is away or refuses, ms. */
const PAUSES = [1000, 2000, 4000, 8000, 15_000, 30_000]

export interface Sent {
  readonly mark: Mark
  readonly saveId: string
  readonly base: number
}

type Trouble = { readonly kind: 'offline' } | { readonly kind: 'refused'; readonly message: string }

export interface Saving {
  readonly present: Mark
  /** What the server is known to have; undefined while that is not known. */
  readonly saved: Mark | undefined
  /** Revision of the server on which the next save is based. */
  readonly base: number
  /** What is on its way, until its answer is here or counts as lost. */
  readonly sending: Sent | null
  readonly firstEdit: number | null
  readonly lastEdit: number
  /** Not to be sent before, after a failure. */
  readonly notBefore: number
  readonly failures: number
  readonly trouble: Trouble | null
  /** The server's revision in a conflict. */
  readonly conflict: number | null
  /** What the browser keeps, and what it is being given. */
  readonly kept: Mark | undefined
  readonly keeping: { readonly mark: Mark } | null
  readonly keepFails: boolean
  /** What it could not keep: it is not tried again before there is something else. */
  readonly notKept: Mark | undefined
}

export type Happening =
  | { readonly kind: 'edited'; readonly mark: Mark }
  /** Time has passed, or the network says that it is back. */
  | { readonly kind: 'woke'; readonly online?: boolean }
  | { readonly kind: 'answered'; readonly saveId: string; readonly revision: number }
  | { readonly kind: 'lost'; readonly saveId: string }
  | { readonly kind: 'refused'; readonly saveId: string; readonly message: string }
  /** The server has another revision than the save was based on, by a save of this page or by somebody else's. */
  | { readonly kind: 'moved-on'; readonly saveId: string; readonly revision: number; readonly isOurs: boolean }
  | { readonly kind: 'kept'; readonly mark: Mark; readonly isKept: boolean }
  /** Somebody wants it saved now, without a pause. */
  | { readonly kind: 'asked' }

export interface Steps {
  /** Send the document as it was at the mark. */
  readonly send: Sent | null
  /** Give the document as it is now to the browser's storage. */
  readonly keep: boolean
  /** When to wake, ms; null where nothing is waited for. */
  readonly wakeAt: number | null
}

/** A document that was just opened. `saved` is undefined where it holds edits that the server does not have. */
export const opened = (present: Mark, saved: Mark | undefined, base: number, now: number): Saving => ({
  ...{ present, saved, base, sending: null },
  firstEdit: saved === present ? null : now,
  lastEdit: now,
  ...{ notBefore: 0, failures: 0, trouble: null, conflict: null },
  ...{ kept: undefined, keeping: null, keepFails: false, notKept: undefined },
})

export const isSaved = ({ present, saved }: Saving): boolean => saved !== undefined && present === saved
const isWanted = (s: Saving): boolean => !isSaved(s) && s.conflict === null

/** What may be sent: what the browser has kept, or whatever there is where it cannot keep anything. */
function readyToSend(s: Saving): { readonly mark: Mark } | null {
  if (!isWanted(s)) return null
  const mark = s.keepFails ? s.present : s.kept
  return mark === undefined || (s.saved !== undefined && mark === s.saved) ? null : { mark }
}

/** When the next save is due. */
const dueAt = (s: Saving): number => Math.max(s.notBefore, Math.min(s.lastEdit + MOMENT, (s.firstEdit ?? s.lastEdit) + LATEST))

/** Takes in what happened. Answers to what is no longer waited for change nothing that matters. */
export function happen(s: Saving, what: Happening, now: number): Saving {
  switch (what.kind) {
    case 'edited': {
      const next = { ...s, present: what.mark, lastEdit: now, firstEdit: s.firstEdit ?? now }
      return isSaved(next) ? { ...next, firstEdit: null } : next
    }
    case 'woke':
      return what.online && s.trouble ? { ...s, notBefore: now, failures: 0 } : s
    case 'asked':
      return { ...s, lastEdit: now - MOMENT, notBefore: now, failures: 0 }
    case 'kept':
      if (s.keeping?.mark !== what.mark) return s
      return what.isKept
        ? { ...s, keeping: null, keepFails: false, kept: what.mark, notKept: undefined }
        : { ...s, keeping: null, keepFails: true, notKept: what.mark }
    default:
      // A late answer of a save that counted as lost: the next one finds out what the server has.
      return s.sending?.saveId === what.saveId ? answered(s, s.sending, what, now) : s
  }
}

type Answer = Exclude<Happening, { kind: 'edited' | 'woke' | 'kept' | 'asked' }>

function answered(s: Saving, sent: Sent, what: Answer, now: number): Saving {
  const back = { ...s, sending: null }
  switch (what.kind) {
    case 'answered': {
      const next = { ...back, saved: sent.mark, base: what.revision, failures: 0, notBefore: 0, trouble: null }
      return { ...next, firstEdit: isSaved(next) ? null : now }
    }
    case 'moved-on':
      // The server moved on by a save whose answer never came.
      if (what.isOurs) return { ...back, base: what.revision, notBefore: now, lastEdit: now - MOMENT }
      return { ...back, conflict: what.revision }
    case 'lost':
      return failed({ ...back, saved: undefined }, { kind: 'offline' }, now)
    case 'refused':
      return failed(back, { kind: 'refused', message: what.message }, now)
  }
}

const failed = (s: Saving, trouble: Trouble, now: number): Saving => ({
  ...s,
  trouble,
  failures: s.failures + 1,
  notBefore: now + nth(PAUSES, Math.min(s.failures, PAUSES.length - 1)),
})

/** What is to be done now; the state says that it is being done. */
export function nextSteps(s: Saving, now: number, newId: () => string): { readonly state: Saving; readonly steps: Steps } {
  let state = s
  let send: Sent | null = null
  const ready = readyToSend(s)
  if (ready && s.sending === null && now >= dueAt(s)) {
    send = { mark: ready.mark, saveId: newId(), base: s.base }
    state = { ...state, sending: send }
  }
  const isHopeless = state.keepFails && state.notKept === state.present
  const keep = state.keeping === null && state.kept !== state.present && !isHopeless
  if (keep) state = { ...state, keeping: { mark: state.present } }
  const wakeAt = readyToSend(state) && state.sending === null ? dueAt(state) : null
  return { state, steps: { send, keep, wakeAt } }
}

/** What a person is told. */
export type SaveState =
  | { readonly kind: 'saved'; readonly revision: number }
  | { readonly kind: 'changed' | 'saving' }
  | { readonly kind: 'offline'; readonly isKept: boolean }
  /** The server answers, but cannot save; it says why. Trying goes on. */
  | { readonly kind: 'refused'; readonly message: string; readonly isKept: boolean }
  | { readonly kind: 'conflict'; readonly revision: number }

export function told(s: Saving): SaveState {
  const isKept = s.kept !== undefined && s.kept === s.present
  if (s.conflict !== null) return { kind: 'conflict', revision: s.conflict }
  if (isSaved(s)) return { kind: 'saved', revision: s.base }
  if (s.trouble?.kind === 'refused') return { ...s.trouble, isKept }
  if (s.trouble) return { kind: 'offline', isKept }
  return { kind: s.sending ? 'saving' : 'changed' }
}

/** Whether closing the page now would lose something: the server does not have it, and the browser could not keep it. */
export const isAtRisk = (s: Saving): boolean => !isSaved(s) && (s.kept === undefined || s.kept !== s.present)
