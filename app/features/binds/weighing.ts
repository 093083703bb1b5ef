/** Binding a part smoothly: weighed in a worker, with its progress and the way to end it. */
import { useRef, useState } from 'react'
import { bindBlended } from '@marionette/core/binds/commands'
import { bonesInOrder } from '@marionette/core/bones/tree'
import { edit } from '@marionette/core/kernel/command'
import { partOf } from '@marionette/core/parts/lookup'
import { Cancelled } from '../../jobs/client'
import { openPuppet, perform } from '../../editor/document'
import { useEditor, type Editor } from '../../editor/editor'

/** Weighs a part for some bones and binds it; whether that was done. */
async function bindSmoothly(
  editor: Editor,
  part: string,
  wanted: readonly string[],
  progress: (done: number) => void,
  signal: AbortSignal,
): Promise<boolean> {
  const puppet = openPuppet(editor)
  const bones = bonesInOrder(puppet)
    .map((b) => b.id)
    .filter((b) => wanted.includes(b))
  try {
    const { bind, name } = partOf(puppet, part)
    const field = await editor.jobs.weigh(puppet, part, bones, progress, signal)
    const mode = bind?.kind === 'blended' ? bind.mode : 'volume'
    return perform(editor, [edit(bindBlended, { part, bones, field, mode })], `Bind ${name} smoothly`)
  } catch (error) {
    if (!(error instanceof Cancelled)) editor.notify.error((error as Error).message)
    return false
  }
}

export interface Weighing {
  /** Share that is done; null while nothing is weighed for the part. */
  readonly progress: number | null
  readonly weigh: (bones: readonly string[]) => Promise<boolean>
  readonly cancel: () => void
}

/** The weighing of a part. */
export function useWeighing(part: string): Weighing {
  const editor = useEditor()
  const [running, setRunning] = useState<{ readonly part: string; readonly done: number } | null>(null)
  const abort = useRef<AbortController | null>(null)
  const weigh = async (bones: readonly string[]): Promise<boolean> => {
    abort.current = new AbortController()
    const progress = (done: number): void => setRunning({ part, done })
    progress(0)
    const isDone = await bindSmoothly(editor, part, bones, progress, abort.current.signal)
    setRunning(null)
    return isDone
  }
  return { progress: running?.part === part ? running.done : null, weigh, cancel: () => abort.current?.abort() }
}
