/** A selected bone as a leg, or as what swings in time with the legs. */
import { useEditor } from '../../editor/editor'
import { usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { addLeg, addSwing } from './walking'

export function BoneStride({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const strides = usePuppet((p) => p.strides)
  const isIn = (all: readonly (string | null)[]): boolean => ids.some((id) => all.includes(id))
  const leg = strides.flatMap(({ legs }) => legs).find(({ bones, foot, toe }) => isIn([...bones, foot, toe]))
  const swing = strides.flatMap(({ swings }) => swings).find(({ bones }) => isIn(bones))
  return (
    <Group id="bone-stride" title="Stride">
      <p className="cap mb-1.5">
        {leg
          ? `In the leg ${leg.name}.`
          : swing
            ? `Swings in time: ${swing.name}.`
            : 'The bone with what hangs from it, or the selected ones.'}
      </p>
      <div className="flex flex-wrap gap-1.5">
        <Button small onClick={() => addLeg(editor, ids)}>
          Walk with it
        </Button>
        {strides.length > 0 && (
          <Button small onClick={() => addSwing(editor, ids)}>
            Swing in time
          </Button>
        )}
      </div>
    </Group>
  )
}
