/** Parts that stand still behind the puppet, or in front of it. */
import { movePart } from '@marionette/core/parts/commands'
import { setScenery } from '@marionette/core/staging/commands'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Puppet } from '@marionette/core/puppet/schema'
import { recordOf } from '@marionette/core/kernel/sure'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'

export const KINDS = [
  { value: 'puppet', label: 'Puppet' },
  { value: 'background', label: 'Behind' },
  { value: 'foreground', label: 'In front' },
] as const
type Kind = (typeof KINDS)[number]['value']

/** Edits that put parts behind or in front of everything else, and let them stand still there. */
function sceneryEdits(puppet: Puppet, parts: readonly string[], kind: Kind): Edit[] {
  if (kind === 'puppet') return [edit(setScenery, { parts: [...parts], where: null })]
  const last = recordOf(puppet.parts, puppet.root).children.length
  const moves = parts.map((part) => edit(movePart, { part, parent: puppet.root, index: kind === 'background' ? 0 : last }))
  return [...moves, edit(setScenery, { parts: [...parts], where: kind })]
}

export function makeScenery(editor: Editor, parts: readonly string[], kind: Kind): void {
  const puppet = openPuppet(editor)
  const own = parts.filter((id) => id !== puppet.root)
  if (own.length === 0) return void editor.notify('Select parts first: what stands behind or in front of the puppet.')
  perform(
    editor,
    sceneryEdits(puppet, own, kind),
    kind === 'puppet' ? 'Scenery no more' : `Scenery ${kind === 'background' ? 'behind' : 'in front'}`,
  )
}
