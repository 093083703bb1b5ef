/** What is around springs: the wind, and what they keep out of. */
import { Plus, X } from 'lucide-react'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { addCollider, deleteCollider, setCollider, setWind } from '@marionette/core/springs/commands'
import type { Wind } from '@marionette/core/springs/records'
import { useEditor } from '../../editor/editor'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { Group } from '../../panels/Group'
import { Button, IconButton } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { figureBox } from '../staging/figure'

export default function AroundGroup() {
  const editor = useEditor()
  const wind = usePuppet((p) => p.wind)
  const colliders = usePuppet((p) => p.colliders)
  const blow = (given: Partial<Wind>): void => void perform(editor, [edit(setWind, { wind: { ...wind, ...given } })])
  const addGround = (): void => {
    const puppet = openPuppet(editor)
    const y = Math.round(puppet.stage.ground ?? figureBox(puppet).feet)
    perform(editor, [edit(addCollider, { collider: { kind: 'ground', id: freshId('collider'), name: 'Ground', y } })], 'Ground for springs')
  }
  return (
    <Group id="springs-around" title="Wind and bodies">
      <NumberField
        label="Wind"
        value={Math.round(100 * wind.strength)}
        rest={0}
        unit="%"
        min={0}
        max={500}
        digits={0}
        onChange={(v) => blow({ strength: (v ?? 0) / 100 })}
      />
      {wind.strength > 0 && (
        <>
          <NumberField label="Blows to" value={wind.direction} rest={0} unit="°" digits={0} onChange={(v) => blow({ direction: v ?? 0 })} />
          <NumberField
            label="Gusts"
            value={Math.round(100 * wind.gusts)}
            rest={50}
            unit="%"
            min={0}
            max={100}
            digits={0}
            onChange={(v) => blow({ gusts: (v ?? 50) / 100 })}
          />
          <NumberField
            label="Seed"
            value={wind.seed}
            min={0}
            max={99_999}
            digits={0}
            onChange={(v) => blow({ seed: Math.round(v ?? 1) })}
          />
        </>
      )}
      {wind.strength > 0 && <p className="cap mt-0.5">It blows while clips and the shaker play; 90° is upwards.</p>}
      <ul aria-label="Bodies that springs keep out of" className="mt-2 flex flex-col">
        {colliders.map((collider) => (
          <li key={collider.id} className="flex items-center gap-1">
            <span className="min-w-0 flex-1">
              <NumberField
                label={collider.name}
                value={collider.kind === 'capsule' ? collider.radius : collider.y}
                unit="px"
                {...(collider.kind === 'capsule' ? { min: 0.5 } : {})}
                digits={0}
                onChange={(v) =>
                  v !== null && perform(editor, [edit(setCollider, { id: collider.id, [collider.kind === 'capsule' ? 'radius' : 'y']: v })])
                }
              />
            </span>
            <IconButton
              label={`Remove ${collider.name}`}
              className="size-6"
              onClick={() => perform(editor, [edit(deleteCollider, { id: collider.id })])}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {!colliders.some((c) => c.kind === 'ground') && (
        <div className="mt-1">
          <Button small onClick={addGround}>
            <Plus size={12} /> Ground
          </Button>
        </div>
      )}
      <p className="cap mt-1">Bodies are added at the bone that they are about.</p>
    </Group>
  )
}
