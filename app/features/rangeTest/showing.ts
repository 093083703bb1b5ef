/** From a fault to its place: the puppet takes the pose, and what is meant is selected where it is worked on. */
import type { RangeRun, RangeSample } from '@marionette/core/rangeTest/report'
import { edit } from '@marionette/core/kernel/command'
import { resetPose, setPose } from '@marionette/core/poses/commands'
import { viewChannel } from '@marionette/core/views/channels'
import { openPuppet, perform } from '../../editor/document'
import { openPanel, selectBones, selectParts, useSession, type BenchId } from '../../editor/session'
import type { Editor } from '../../editor/editor'
import { openClip, setActing } from '../clips/acting'

const BENCHES: Readonly<Record<RangeRun['kind'], BenchId>> = {
  bone: 'bones',
  pair: 'bones',
  random: 'bones',
  control: 'shape',
  expression: 'face',
  alternate: 'face',
  clip: 'rehearse',
}

/** Shows a sample; returns the bench at which it is seen. */
export function showSample(editor: Editor, run: RangeRun, sample: RangeSample): BenchId {
  openPanel(editor, null)
  const bench = BENCHES[run.kind]
  if (run.kind === 'clip') {
    openClip(editor, run.subject.id)
    setActing(editor, { time: sample.at })
    return bench
  }
  // Away from Rehearse first: there a pose would go into the open clip.
  useSession.of(editor).setState({ bench })
  const puppet = openPuppet(editor)
  const view = viewChannel(puppet)
  const at = puppet.views.findIndex(({ name }) => name === run.view)
  const values = { ...sample.values, ...(at >= 0 ? { [view]: at } : {}) }
  perform(editor, [edit(resetPose, { channels: null }), edit(setPose, { values })], `Show ${run.name}`)
  select(editor, run, sample)
  return bench
}

function select(editor: Editor, run: RangeRun, sample: RangeSample): void {
  const part = sample.faults[0]?.part ?? null
  if (run.subject.kind === 'control') useSession.of(editor).setState({ control: run.subject.id })
  if (run.subject.kind === 'bone') selectBones(editor, run.subject.id)
  else if (part !== null) selectParts(editor, part)
}
