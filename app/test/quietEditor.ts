/** An editor without a page around it: what it would say is kept. */
import type { Jobs } from '../jobs/client'
import { createEditor, type Editor, type Notify } from '../editor/editor'

export interface QuietEditor {
  readonly editor: Editor
  /** What was said, in order. */
  readonly said: string[]
}

/** No work is done where nothing is asked of it. */
const NO_JOBS = {} as Jobs

export function quietEditor(jobs: Jobs = NO_JOBS): QuietEditor {
  const said: string[] = []
  const say = (text: string): number => said.push(text)
  const notify: Notify = Object.assign(say, { error: say, warning: say, success: say, loading: say, dismiss: () => undefined })
  return { editor: createEditor({ jobs, notify }), said }
}
