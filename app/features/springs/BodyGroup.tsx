/** Whether springs keep out of the body about a bone, and how thick it is. */
import type { Bone } from '@marionette/core/bones/records'
import { edit } from '@marionette/core/kernel/command'
import { deleteCollider, setCollider } from '@marionette/core/springs/commands'
import { useEditor } from '../../editor/editor'
import { perform, usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { NumberField } from '../../ui/NumberField'
import { Tick } from '../../ui/Tick'
import { addBody } from './making'

export function BodyGroup({ bone }: { bone: Bone }) {
  const editor = useEditor()
  const body = usePuppet((p) => p.colliders).find((c) => c.kind === 'capsule' && c.bone === bone.id)
  return (
    <Group id="springs-body" title="Body">
      <Tick
        checked={body !== undefined}
        onChange={(on) => (on || !body ? addBody(editor, bone.id) : void perform(editor, [edit(deleteCollider, { id: body.id })]))}
      >
        Springs keep out of it
      </Tick>
      {body?.kind === 'capsule' && (
        <NumberField
          label="Radius"
          value={body.radius}
          unit="px"
          min={0.5}
          digits={0}
          onChange={(v) => v !== null && perform(editor, [edit(setCollider, { id: body.id, radius: v })])}
        />
      )}
    </Group>
  )
}
