/** Controls made from a bone. */
import { boneChannel } from '@marionette/core/bones/channels'
import { Button } from '../../ui/Button'
import { proposeCorrective } from '../responses/turning'
import { controlFor, makeLever } from './making'
import { useEditor } from '../../editor/editor'

export function ControlForBone({ id }: { id: string }) {
  const editor = useEditor()
  return (
    <div className="flex flex-wrap gap-2 border-t border-hair py-3">
      <Button small onClick={() => controlFor(editor, boneChannel(id, 'angle'))}>
        Control for this
      </Button>
      <Button small onClick={() => makeLever(editor, id)}>
        Bone control
      </Button>
      <Button small onClick={() => void proposeCorrective(editor, id)}>
        Propose corrections
      </Button>
    </div>
  )
}
