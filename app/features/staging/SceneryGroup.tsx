/** Whether a part is scenery: it stands still whatever the puppet does, behind it or in front of it. */
import { movePart } from '@marionette/core/parts/commands'
import { setScenery } from '@marionette/core/staging/commands'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Puppet } from '@marionette/core/puppet/schema'
import { recordOf } from '@marionette/core/kernel/sure'
import { useEditor, type Editor } from '../../editor/editor'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Segments } from '../../ui/Segments'

const KINDS = [
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

export function SceneryGroup({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const where = usePuppet((p) => p.stage.scenery.find((s) => s.part === ids[0])?.where ?? 'puppet')
  return (
    <Group id="scenery" title="Belongs to">
      <Segments label="Belongs to" value={where} options={KINDS} onChange={(kind) => makeScenery(editor, ids, kind)} />
      {where !== 'puppet' && <p className="cap mt-1.5">Scenery stands still whatever the puppet does, and casts no shadow.</p>}
    </Group>
  )
}
