/**
 * Commands: the only way in which a puppet changes.
 *
 * A command is a pure function from a puppet and a checked argument object to a puppet, with the patches that
 * lead there and back. It applies whole or refuses with a sentence for people; never half an edit.
 */
import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer'
import type { Puppet } from './schema'
import { inView, shownView } from '../views/views'
import { brokenBy } from './guard'
import { HOST } from './host'
import { goneIn } from './ids'
import { mended, type Step } from './repair'
import { type Command, type Edit, edit } from '../kernel/command'
import { EditError } from '../kernel/errors'

enablePatches()

/** One change, ready to be done, undone and stored. */
export interface HistoryEntry {
  readonly label: string
  readonly patches: readonly Patch[]
  readonly inverse: readonly Patch[]
}

/** A puppet after an edit, and how to go back. */
export interface Edited {
  readonly puppet: Puppet
  readonly change: HistoryEntry
}

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
  const step: Step = (recipe) => {
    const [made, there, back] = produceWithPatches(next, (draft) => recipe(draft as Puppet))
    patches.push(...there)
    inverse.unshift(...back)
    return (next = made)
  }
  let sound = puppet
  for (const { what, args } of checked) {
    const was = next
    step((draft) => what.apply(draft, args, HOST))
    // What comes next in the list may bring something new under an id that went.
    if (goneIn(was, next).size > 0) sound = mended(sound, next, step)
    // What follows finds the puppet written as it is seen.
    const view = shownView(next)
    if (view !== next.view) step((draft) => Object.assign(draft, inView(next, view)))
  }
  mended(sound, next, step)
  const broken = brokenBy(puppet, next)
  if (broken !== null) throw new EditError(broken)
  return { puppet: next, change: { label, patches, inverse } }
}

/** Applies one command and returns the new puppet, for scripts that keep no history. */
export const run = <Args>(puppet: Puppet, what: Command<Args>, args: NoInfer<Args>): Puppet => applyEdits(puppet, [edit(what, args)]).puppet

/** A puppet with a change made again. */
export const redoChange = (puppet: Puppet, change: HistoryEntry): Puppet => applyPatches(puppet, change.patches as Patch[])

/** A puppet with a change taken back. */
export const undoChange = (puppet: Puppet, change: HistoryEntry): Puppet => applyPatches(puppet, change.inverse as Patch[])
