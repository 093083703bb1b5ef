/** Drives saving: the open document, the clock, the network and the browser's storage, with what the machine says. */
import { HISTORY_LENGTH, type History } from '@marionette/core/edit/history'
import { RequestError, savePuppet } from '../api'
import { keepNeeded, sendMissing } from '../assets'
import { useDocument } from '../document'
import { recordingNow } from '../recording'
import { keepDraft } from './drafts'
import { happen, isAtRisk, isSaved, opened, told, nextSteps, type Happening, type Mark, type Saving, type Sent } from './machine'
import { isOfTab, saveIdOf } from './saveIds'

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
    private readonly tab: string,
    seq: number,
  ) {
    this.seq = seq
    this.machine = this.begun()
  }

  /** A document that was just opened, or taken from the server again. */
  private begun(): Saving {
    const { history, revision, hasUnsent, conflict } = useDocument.getState()
    this.beginning = {}
    this.kept = null
    const mark = markOf(history!, this.beginning)
    const machine = opened(mark, hasUnsent ? undefined : mark, revision, Date.now())
    return conflict === null ? machine : { ...machine, conflict }
  }

  start(): () => void {
    const unsubscribe = useDocument.subscribe((now, before) => {
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
    const needed = setInterval(() => void keepNeeded(useDocument.getState().history), NEEDED_EVERY)
    void keepNeeded(useDocument.getState().history)
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

  private stop(): void {
    clearTimeout(this.timer)
    this.isStopped = true
    const { history } = useDocument.getState()
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
    const { save: shown, revision } = useDocument.getState()
    if (JSON.stringify(shown) !== JSON.stringify(save) || revision !== state.base) useDocument.setState({ save, revision: state.base })
    if (steps.keep) void this.keepNow()
    if (steps.send) void this.send(steps.send)
    clearTimeout(this.timer)
    if (steps.wakeAt !== null) this.timer = setTimeout(() => this.tell({ kind: 'woke' }), Math.max(0, steps.wakeAt - Date.now()))
  }

  private newId(): string {
    return saveIdOf(this.tab, this.seq, ++this.count)
  }

  private async keepNow(): Promise<void> {
    const history = useDocument.getState().history!
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
      ...{ at: Date.now(), recording: recordingNow() },
    })
  }

  private sending(sent: Sent, { puppet }: History): Parameters<typeof savePuppet>[0] {
    return { puppet, base: sent.base, saveId: sent.saveId, wentBack: this.wentBack }
  }

  private async send(sent: Sent): Promise<void> {
    const { history } = useDocument.getState()
    const snapshot = this.kept !== null && this.kept.mark === sent.mark ? this.kept.history : history!
    const { saveId } = sent
    try {
      const { revision } = await savePuppet(this.sending(sent, snapshot))
      this.wentBack = false
      this.tell({ kind: 'answered', saveId, revision })
      // What is kept says from now on that the server has it.
      if (!this.isStopped && isSaved(this.machine)) void this.keep({ mark: sent.mark, history: useDocument.getState().history! })
    } catch (error) {
      if (!(error instanceof RequestError)) throw error
      if (error.status === 412)
        return this.tell({ kind: 'moved-on', saveId, revision: error.revision ?? 0, isOurs: isOfTab(error.saveId, this.tab) })
      if (error.status === 422) await sendMissing(snapshot.puppet).catch(() => undefined)
      this.tell(error.status === 0 ? { kind: 'lost', saveId } : { kind: 'refused', saveId, message: error.message })
    }
  }
}

let running: Autosave | null = null

/** Starts saving the open puppet for a window; returns a function that stops after a last attempt. */
export function startAutosave(tab: string): () => void {
  const autosave = new Autosave(tab, Date.now())
  running = autosave
  const stop = autosave.start()
  return () => {
    stop()
    if (running === autosave) running = null
  }
}

/** Told when somebody goes back to an earlier version. */
export const noteWentBack = (): void => running?.noteWentBack()
