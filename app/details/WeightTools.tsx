/** What can be done to the weights of a blended part as a whole. */
import { useState } from 'react'
import { blendedOf } from '@marionette/core/rig/weights'
import { useRestOf } from '../state/document'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Field, Pick } from './Group'
import { mirrorWeights, pruneWeights, reachWeights, shareBorder, smoothWeights, takeWeights } from './weightMaking'

export function WeightTools({ id }: { id: string }) {
  const puppet = useRestOf()
  const [radius, setRadius] = useState(80)
  const others = Object.values(puppet.parts).filter((p) => p.id !== id && blendedOf(puppet, p.id))
  const options = [{ id: '', label: 'Choose a part' }, ...others.map((p) => ({ id: p.id, label: p.name }))]
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <div className="flex flex-wrap gap-1.5">
        <Button small onClick={() => void smoothWeights(id)}>
          Smooth
        </Button>
        <Button small onClick={() => void pruneWeights(id)}>
          Prune
        </Button>
        <Button small onClick={() => void mirrorWeights(id, -1)}>
          Mirror left
        </Button>
        <Button small onClick={() => void mirrorWeights(id, 1)}>
          Mirror right
        </Button>
      </div>
      <div className="mt-1 flex items-center gap-2">
        <NumberField label="Radius" value={radius} unit="px" min={1} digits={0} onChange={(v) => v !== null && setRadius(v)} />
        <Button small onClick={() => void reachWeights(id, radius)}>
          Weigh by reach
        </Button>
      </div>
      {others.length > 0 && (
        <>
          <Field label="Take from">
            <Pick
              label="Part whose weights are taken over"
              value=""
              options={options}
              onChange={(from) => from && void takeWeights(id, from)}
            />
          </Field>
          <Field label="Border with">
            <Pick
              label="Part to share the border with"
              value=""
              options={options}
              onChange={(other) => other && void shareBorder(id, other)}
            />
          </Field>
        </>
      )}
    </div>
  )
}
