/** The range test of the open puppet: what it found, whether that still holds, and what is being tried now. */
import type { Mend } from '@marionette/core/rangeTest/mends'
import { runKey, withTriedAgain, type RangeReport, type RangeRun } from '@marionette/core/rangeTest/report'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { isSameBut } from '@marionette/core/puppet/touched'
import { loadAssets } from '../../editor/assets'
import { openPuppet, perform } from '../../editor/document'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import { orSaid } from '../../editor/work'
import { capJoint } from '../joints/making'
import { download, fileStem } from '../send/download'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'

interface Tested {
  readonly report: RangeReport
  readonly pictures: ReadonlyMap<string, Uint8Array>
  /** The puppet of which everything was tried. */
  readonly whole: Puppet
  /** The puppet of which something was tried last: pictures of the report are of it. */
  readonly latest: Puppet
}

interface TestingState {
  readonly tested: Tested | null
  /** Share that is done, and what is tried; null while nothing is. */
  readonly running: { readonly done: number; readonly said: string } | null
}

export const useTesting = editorStore<TestingState>(() => ({ tested: null, running: null }))

const stateOf = editorState((): { abort: AbortController | null } => ({ abort: null }))

/** Whether a puppet is still that of which everything was tried; posing changes nothing. */
export const holds = ({ whole }: Tested, now: Puppet): boolean => isSameBut(whole, now, 'pose', 'view')

export function cancelTest(editor: Editor): void {
  stateOf(editor).abort?.abort()
}

/** Runs work with progress that can be cancelled. */
async function working<T>(
  editor: Editor,
  run: (progress: (done: number, said: string) => void, signal: AbortSignal) => Promise<T>,
): Promise<T | null> {
  const own = stateOf(editor)
  own.abort?.abort()
  const abort = (own.abort = new AbortController())
  const store = useTesting.of(editor)
  store.setState({ running: { done: 0, said: '' } })
  const result = await orSaid(editor, () =>
    run((done, said) => own.abort === abort && store.setState({ running: { done, said } }), abort.signal),
  )
  if (own.abort === abort) {
    own.abort = null
    store.setState({ running: null })
  }
  return result
}

/** Tries all runs of a puppet, or some. */
const tried = (editor: Editor, puppet: Puppet, only: readonly string[] | null) =>
  working(editor, async (progress, signal) =>
    editor.jobs.testRange(puppet, await loadAssets(editor, paintedAssetsOf(puppet)), only, progress, signal),
  )

/** Tests everything. */
export async function testPuppet(editor: Editor): Promise<void> {
  const puppet = openPuppet(editor)
  const found = await tried(editor, puppet, null)
  if (found) useTesting.of(editor).setState({ tested: { ...found, whole: puppet, latest: puppet } })
}

/** Tries a run again, on the puppet as it is now. */
export async function tryAgain(editor: Editor, run: RangeRun): Promise<void> {
  const puppet = openPuppet(editor)
  const keys = [runKey(run)]
  const found = await tried(editor, puppet, keys)
  const { tested } = useTesting.of(editor).getState()
  if (!found || !tested) return
  const report = withTriedAgain(tested.report, found.report, keys)
  const pictures = new Map([...tested.pictures, ...found.pictures])
  useTesting.of(editor).setState({ tested: { ...tested, report, pictures, latest: puppet } })
}

/** Does a mend as one step that can be undone, and tries the run again. */
export async function doMend(editor: Editor, run: RangeRun, mend: Mend): Promise<void> {
  const isDone =
    mend.joint === null
      ? perform(editor, [...mend.edits], mend.label)
      : await working(editor, (progress, signal) =>
          capJoint(editor, mend.joint ?? '', { threshold: LINE_THRESHOLD, pieces: 'both' }, (done) => progress(done, mend.label), signal),
        )
  if (isDone) await tryAgain(editor, run)
}

/** Hands the report to the browser as a contact sheet or a film. */
export async function saveReport(editor: Editor, kind: 'sheet' | 'film'): Promise<void> {
  const { tested } = useTesting.of(editor).getState()
  if (!tested) return
  const { latest: puppet, report } = tested
  const bytes = await working(editor, async (progress, signal) => {
    const assets = await loadAssets(editor, paintedAssetsOf(puppet))
    const said = kind === 'sheet' ? 'Drawing the sheet' : 'Making the film'
    return editor.jobs.rangeFile(puppet, report, kind, assets, (done) => progress(done, said), signal)
  })
  const [ending, type] = kind === 'sheet' ? ['png', 'image/png'] : ['gif', 'image/gif']
  if (bytes) download(bytes, `${fileStem(puppet.name)}-range-test.${ending}`, type)
}
