/** Points that are moved while a clip is open: the drawing stays, its part gets a shape by hand at that moment. */
import { planHandShape, type HandPlan } from '@marionette/core/clips/handShapes'
import type { Clip } from '@marionette/core/clips/records'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import { freshId } from '@marionette/core/kernel/ids'
import { drawingOf } from '@marionette/core/parts/tree'
import { isSameBut } from '@marionette/core/puppet/touched'
import type { Puppet } from '@marionette/core/puppet/schema'
import { recordedChanges } from '@marionette/core/recording/record'
import { isRestructured } from '@marionette/core/recording/restructured'
import { recordStop } from '@marionette/core/responses/commands'
import { FoldedError } from '@marionette/core/touch/posedPaths'
import type { Redirect } from '../../editor/document'
import { frameOf } from '../../editor/poseInverse'
import { editorState, type Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import { layerNow, seenInClip, toFrame, useActing } from './acting'

/** Whether an edit reshapes drawings and does nothing else. */
export const isReshaping = (before: Puppet, after: Puppet): boolean =>
  before.drawings !== after.drawings && isSameBut(before, after, 'pose', 'drawings') && before.pose === after.pose

/** The part whose drawing is reshaped: the selected one where it is that, else whichever shows it. */
function reshapedPart(editor: Editor, before: Puppet, after: Puppet): string | null {
  const { selection } = useSession.of(editor).getState()
  const isChanged = (id: string): boolean => {
    const part = before.parts[id]
    const drawing = part && drawingOf(before, part)
    return drawing !== undefined && drawing !== null && after.drawings[drawing.id] !== drawing
  }
  const chosen = selection.kind === 'part' ? selection.ids.find(isChanged) : undefined
  return chosen ?? Object.keys(before.parts).find(isChanged) ?? null
}

/** Room that was made for a shape: while a drag goes on the puppet is the same, and only what is moved differs. */
interface Planned {
  readonly puppet: Puppet
  readonly at: Parameters<typeof planHandShape>[1]
  readonly plan: HandPlan
  /** The puppet with that room, as it is seen at the moment. */
  readonly before: Puppet
}

const lastPlan = editorState((): { planned: Planned | null } => ({ planned: null }))

function planned(editor: Editor, puppet: Puppet, at: Planned['at'], apply: Parameters<Redirect>[2]): Planned {
  const own = lastPlan(editor)
  const last = own.planned
  const isSame = last?.puppet === puppet && (Object.keys(at) as (keyof typeof at)[]).every((key) => last.at[key] === at[key])
  if (last && isSame) return last
  const plan = planHandShape(puppet, at, { control: freshId('control'), response: freshId('response'), stop: freshId('stop') })
  own.planned = { puppet, at, plan, before: seenInClip(editor, apply(puppet, plan.edits)) }
  return own.planned
}

/**
 * Edits that give a part a shape by hand at the moment that is looked at, in place of an edit of its drawing.
 *
 * @param seen the puppet as it is seen at the moment, and `after` what the edit makes of it
 * @param apply what edits make of a puppet. Throws EditError for what is no moving of points
 */
export function shapedByHand(
  editor: Editor,
  puppet: Puppet,
  clip: Clip,
  { one, seen, after }: { readonly one: Edit; readonly seen: Puppet; readonly after: Puppet },
  apply: Parameters<Redirect>[2],
): Edit[] {
  const part = reshapedPart(editor, seen, after)
  // Points that come or go do so at rest, where they change nothing.
  if (part === null || isRestructured(seen, after)) return [one]
  const time = toFrame(clip, useActing.of(editor).getState().time)
  const { plan, before } = planned(editor, puppet, { clip: clip.id, layer: layerNow(editor, clip), part, time }, apply)
  const response = before.responses.find(({ id }) => id === plan.response)
  const stop = response?.stops.find(({ id }) => id === plan.stop)
  if (!response || !stop) return [one]
  try {
    const changes = recordedChanges(frameOf(editor, before), before, apply(before, [one]), { response, stop, part })
    return [...plan.edits, edit(recordStop, { response: response.id, stop: stop.id, changes })]
  } catch (error) {
    if (error instanceof FoldedError) throw new EditError(error.message)
    throw error
  }
}
