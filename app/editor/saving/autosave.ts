/** Drives saving: the open document, the clock, the network and the browser's storage, with what the machine says. */
import { HISTORY_LENGTH, type History } from '@marionette/core/puppet/history'
import { RequestError, savePuppet } from '../../storage/api'
import { keepNeeded, sendMissing } from '../assets'
import { useDocument } from '../document'
import type { Editor } from '../editor'
import { keepDraft, type Draft } from '../../storage/drafts'
import { happen, isAtRisk, isSaved, opened, told, nextSteps, type Happening, type Mark, type Saving, type Sent } from './machine'
import { isOfTab, saveIdOf } from '../../storage/saveIds'
import { editorState } from '../editor'
import { sure } from '@marionette/core/kernel/sure'

/** How often the server is told which pictures are needed, ms. */
const NEEDED_EVERY = 10 * 60_000

/**
 * What stands for the state of a history: the last change in force, or its beginning. Walking back gives an equal puppet, but not the
 * same object. Once old changes were forgotten the beginning is no fixed state any more.
 */
function markOf(history: History, beginning: object): Mark {
  const { changes, done } = history
  if (done > 0) return changes[done - 1]
  return changes.length < HISTORY_LENGTH ? beginning : history
}

/** A state as it was when it was kept, to be sent as such. */
interface Snapshot {
  readonly mark: Mark
  readonly history: History
}

class Autosave {
  private machine: Saving
  private beginning = {}
  private timer: ReturnType<typeof setTimeout> | undefined
  private kept: Snapshot | null = null
  private count = 0
  private seq: number
  private wentBack = false
  private isStopped = false

  constructor(
    private readonly editor: Editor,
    private readonly tab: string,
    seq: number,
    /** What is being recorded, to be kept with a draft. */
    private readonly recordingNow: () => Draft['recording'],
  ) {
    this.seq = seq
    this.machine = this.begun()
  }

  /** A document that was just opened, or taken from the server again. */
  private begun(): Saving {
    const { history, revision, hasUnsent, conflict } = useDocument.of(this.editor).getState()
    this.beginning = {}
    this.kept = null
    const mark = markOf(sure(history), this.beginning)
    const machine = opened(mark, hasUnsent ? undefined : mark, revision, Date.now())
    return conflict === null ? machine : { ...machine, conflict }
  }

  start(): () => void {
    const unsubscribe = useDocument.of(this.editor).subscribe((now, before) => {
      if (!now.history || now.history === before.history) return
      if (now.openings !== before.openings) {
        this.machine = this.begun()
        return this.work()
      }
      this.tell({ kind: 'edited', mark: markOf(now.history, this.beginning) })
    })
    const wake = (): void => this.tell({ kind: 'woke', online: true })
    const risk = (e: BeforeUnloadEvent): void => {
      if (isAtRisk(this.machine) && this.machine.keepFails) e.preventDefault()
    }
    globalThis.addEventListener?.('online', wake)
    globalThis.addEventListener?.('beforeunload', risk)
    const needed = setInterval(() => void keepNeeded(this.editor, useDocument.of(this.editor).getState().history), NEEDED_EVERY)
    void keepNeeded(this.editor, useDocument.of(this.editor).getState().history)
    this.work()
    return () => {
      unsubscribe()
      globalThis.removeEventListener?.('online', wake)
      globalThis.removeEventListener?.('beforeunload', risk)
      clearInterval(needed)
      this.stop()
    }
  }

  /** Somebody went back to an earlier version: the one before is worth keeping. */
  noteWentBack(): void {
    this.wentBack = true
  }

  /** Saves without waiting for more edits. */
  saveNow(): void {
    this.tell({ kind: 'asked' })
  }

  private stop(): void {
    clearTimeout(this.timer)
    this.isStopped = true
    const { history } = useDocument.of(this.editor).getState()
    if (!history || isSaved(this.machine) || this.machine.conflict !== null) return
    // A last try with what there is; the draft goes on from here whatever becomes of it.
    const mark = markOf(history, this.beginning)
    void this.keep({ mark, history }).then(() =>
      savePuppet(this.sending({ mark, saveId: this.newId(), base: this.machine.base }, history)).catch(() => undefined),
    )
  }

  private tell(what: Happening): void {
    if (this.isStopped) return
    this.machine = happen(this.machine, what, Date.now())
    this.work()
  }

  private work(): void {
    const { state, steps } = nextSteps(this.machine, Date.now(), () => this.newId())
    this.machine = state
    const save = told(state)
    const { save: shown, revision } = useDocument.of(this.editor).getState()
    if (JSON.stringify(shown) !== JSON.stringify(save) || revision !== state.base)
      useDocument.of(this.editor).setState({ save, revision: state.base })
    if (steps.keep) void this.keepNow()
    if (steps.send) void this.send(steps.send)
    clearTimeout(this.timer)
    if (steps.wakeAt !== null) this.timer = setTimeout(() => this.tell({ kind: 'woke' }), Math.max(0, steps.wakeAt - Date.now()))
  }

  private newId(): string {
    return saveIdOf(this.tab, this.seq, ++this.count)
  }

  private async keepNow(): Promise<void> {
    const history = sure(useDocument.of(this.editor).getState().history)
    const snapshot = { mark: markOf(history, this.beginning), history }
    const isKept = await this.keep(snapshot)
    if (isKept) this.kept = snapshot
    this.tell({ kind: 'kept', mark: snapshot.mark, isKept })
  }

  private keep({ mark, history }: Snapshot): Promise<boolean> {
    const { puppet, changes, done } = history
    const confirmed = this.machine.saved !== undefined && this.machine.saved === mark
    return keepDraft({
      ...{ tab: this.tab, seq: ++this.seq, revision: this.machine.base, puppet, changes, done, confirmed },
      ...{ at: Date.now(), recording: this.recordingNow() },
    })
  }

  private sending(sent: Sent, { puppet }: History): Parameters<typeof savePuppet>[0] {
    return { puppet, base: sent.base, saveId: sent.saveId, wentBack: this.wentBack }
  }

  private async send(sent: Sent): Promise<void> {
    const { history } = useDocument.of(this.editor).getState()
    const snapshot = this.kept !== null && this.kept.mark === sent.mark ? this.kept.history : sure(history)
    const { saveId } = sent
    try {
      const { revision } = await savePuppet(this.sending(sent, snapshot))
      this.wentBack = false
      this.tell({ kind: 'answered', saveId, revision })
      // What is kept says from now on that the server has it.
      if (!this.isStopped && isSaved(this.machine))
        void this.keep({ mark: sent.mark, history: sure(useDocument.of(this.editor).getState().history) })
    } catch (error) {
      if (!(error instanceof RequestError)) throw error
      if (error.status === 412)
        return this.tell({ kind: 'moved-on', saveId, revision: error.revision ?? 0, isOurs: isOfTab(error.saveId, this.tab) })
      if (error.status === 422) await sendMissing(this.editor, snapshot.puppet).catch(() => undefined)
      this.tell(error.status === 0 ? { kind: 'lost', saveId } : { kind: 'refused', saveId, message: error.message })
    }
  }
}

interface Own {
  running: Autosave | null
}

const stateOf = editorState((): Own => ({ running: null }))

/** Starts saving the open puppet for a window; returns a function that stops after a last attempt. */
export function startAutosave(editor: Editor, tab: string, recordingNow: () => Draft['recording'] = () => null): () => void {
  const own = stateOf(editor)
  const autosave = new Autosave(editor, tab, Date.now(), recordingNow)
  own.running = autosave
  const stop = autosave.start()
  return () => {
    stop()
    if (own.running === autosave) own.running = null
  }
}

/** Saves the open puppet at once, for those who do not want to wait for the moment in which it saves itself. */
export const saveNow = (editor: Editor): void => stateOf(editor).running?.saveNow()

/** Told when somebody goes back to an earlier version. */
export const noteWentBack = (editor: Editor): void => stateOf(editor).running?.noteWentBack()
