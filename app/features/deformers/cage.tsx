/** Cages in the interface. */
import { Grid3x3 } from 'lucide-react'
import { cageLines } from '@marionette/core/posing/handles'
import type { Cage } from '@marionette/core/deformers/records'
import { CageFields } from './CageFields'
import { fitting, type DeformerView } from './view'
import { nth } from '@marionette/core/kernel/sure'

export const cageView: DeformerView<Cage> = {
  label: 'Cage',
  icon: Grid3x3,
  action: 'Put a cage on the part',
  aroundSeveral: true,
  handles: 'square',
  turns: false,
  hasBars: false,
  make: async ({ puppet, part, id, name, only }) => (await fitting()).cageAround(puppet, part, id, name, only),
  Fields: ({ deformer, onChange }) => <CageFields cage={deformer} onChange={onChange} />,
  trace(path, d, spots) {
    for (const [a, b] of cageLines(d)) {
      path.moveTo(nth(spots, a).x, nth(spots, a).y)
      path.lineTo(nth(spots, b).x, nth(spots, b).y)
    }
    return 1.25
  },
}
