/** Deformers in the interface. */
import { withPart } from '../../panels/about'
import { inBelts, type Feature } from '../../panels/feature'
import { DEFORM_ACTIONS } from './actions'
import { DeformBar } from './DeformBar'
import { DeformersGroup } from './DeformersGroup'
import { deformTool } from './deformTool'

export const deformers: Feature = {
  name: 'deformers',
  details: [{ about: 'part', place: 60, Group: withPart(DeformersGroup) }],
  tools: inBelts(deformTool, { shape: 90 }),
  bars: [DeformBar],
  actions: DEFORM_ACTIONS,
}
