/**
 * Commands: the only way in which a puppet changes.
 *
 * A command is a pure function from a puppet and a checked argument object to a puppet, with the patches that
 * lead there and back. It applies whole or refuses with a sentence for people; never half an edit.
 */
import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer'
import type { z } from 'zod'
import { channelOf } from '../document/channels'
import type { Puppet } from '../document/schema'
import { inView, shownView } from '../document/views'
import { brokenBy } from './guard'
import { keepSwaps, touchesSwaps } from './keepSwaps'
import { ANSWERS, circleOf, keptAnswers, touchesAnswers } from './answers'

enablePatches()

/** A refusal; the message is shown to the person as it is. */
export class EditError extends Error {}

export interface Command<Args = unknown> {
  readonly name: string
  /** Sentence-case label for history and command search. */
  readonly label: string
  readonly schema: z.ZodType<Args>
  /** Changes the draft in place; throws EditError to refuse. */
  readonly apply: (draft: Puppet, args: Args) => void
}

export function command<Args>(
  name: string,
  label: string,
  schema: z.ZodType<Args>,
  apply: (draft: Puppet, args: Args) => void,
): Command<Args> {
  return { name, label, schema, apply }
}

/** One change, ready to be done, undone and stored. */
export interface Change {
  readonly label: string
  readonly patches: readonly Patch[]
  readonly inverse: readonly Patch[]
}

export interface Edited {
  readonly puppet: Puppet
  readonly change: Change
}

/** A command with its arguments, not yet applied: plain data. */
export interface Edit<Args = unknown> {
  readonly command: Command<Args>
  readonly args: Args
}

/** Pairs a command with arguments; the type of the arguments is checked here. */
export const edit = <Args>(what: Command<Args>, args: NoInfer<Args>): Edit => ({ command: what, args }) as Edit

/** Applies edits in order as one change. Throws EditError when one refuses; the given puppet is never touched. */
export function applyEdits(puppet: Puppet, edits: readonly Edit[], label = edits.at(-1)?.command.label ?? 'Nothing'): Edited {
  const checked = edits.map(({ command: what, args }) => {
    const parsed = what.schema.safeParse(args)
    if (!parsed.success) throw new EditError(`${what.label}: ${parsed.error.issues[0]?.message ?? 'the arguments do not fit'}.`)
    return { what, args: parsed.data }
  })
  let next = puppet
  const patches: Patch[] = []
  const inverse: Patch[] = []
  const step = (apply: (draft: Puppet) => void): void => {
    const [made, there, back] = produceWithPatches(next, (draft) => apply(draft as Puppet))
    next = made
    patches.push(...there)
    inverse.unshift(...back)
  }
  for (let at = 0; at < checked.length;) {
    step((draft) => {
      do checked[at]!.what.apply(draft, checked[at]!.args)
      while (++at < checked.length && shownView(draft) === draft.view)
    })
    // What follows finds the puppet written as it is seen.
    const view = shownView(next)
    if (view !== next.view) step((draft) => Object.assign(draft, inView(next, view)))
  }
  if (touchesSwaps(puppet, next)) step(keepSwaps)
  if (touchesAnswers(puppet, next)) {
    const kept = keptAnswers(puppet, next)
    if (ANSWERS.some((field) => kept[field] !== next[field])) step((draft) => void Object.assign(draft, kept))
    forgetPose(next, step)
    const circle = circleOf(next)
    if (circle !== null) throw new EditError(circle)
  }
  const broken = brokenBy(puppet, next)
  if (broken !== null) throw new EditError(broken)
  return { puppet: next, change: { label, patches, inverse } }
}

/** What poses controls that are gone is dropped. */
function forgetPose(puppet: Puppet, step: (apply: (draft: Puppet) => void) => void): void {
  const gone = Object.keys(puppet.pose).filter((address) => address.startsWith('control/') && !channelOf(puppet, address))
  if (gone.length > 0)
    step((draft) => {
      for (const address of gone) delete draft.pose[address]
    })
}

/** Applies one command and returns the new puppet, for scripts that keep no history. */
export const run = <Args>(puppet: Puppet, what: Command<Args>, args: NoInfer<Args>): Puppet => applyEdits(puppet, [edit(what, args)]).puppet

export const redoChange = (puppet: Puppet, change: Change): Puppet => applyPatches(puppet, change.patches as Patch[])
export const undoChange = (puppet: Puppet, change: Change): Puppet => applyPatches(puppet, change.inverse as Patch[])
