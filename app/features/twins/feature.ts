/** Twins in the interface. */
import { withPart } from '../../panels/about'
import type { Feature } from '../../panels/feature'
import { TwinGroup } from './TwinGroup'

export const twins: Feature = {
  name: 'twins',
  details: [{ about: 'part', place: 120, shows: ({ puppet, ids }) => ids[0] !== puppet.root, Group: withPart(TwinGroup) }],
}
