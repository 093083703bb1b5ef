/** An editor without a page around it: what it would say is kept. */
import type { Jobs } from '../jobs/client'
import { createEditor, type Editor, type Notify } from '../editor/editor'

export interface QuietEditor {
  readonly editor: Editor
  /** What was said, in order. */
  readonly said: string[]
}

/** @param jobs the work that a test asks for; nothing else is done */
export function quietEditor(jobs: Partial<Jobs> = {}): QuietEditor {
  const said: string[] = []
  const say = (text: string): number => said.push(text)
  const notify: Notify = Object.assign(say, { error: say, warning: say, success: say, loading: say, dismiss: () => undefined })
  return { editor: createEditor({ jobs: jobs as Jobs, notify }), said }
}
