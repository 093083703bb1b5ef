/** Binds and weights in the interface. */
import { withId } from '../../panels/about'
import { inBelts, type Feature } from '../../panels/feature'
import { BIND_ACTIONS } from './actions'
import { BindGroup } from './BindGroup'
import { bindTool } from './bindTool'
import { boneWeights, partWeights } from './heat'
import { WeighBar } from './WeighBar'
import { weighTool } from './weighTool'

export const binds: Feature = {
  name: 'binds',
  details: [{ about: 'part', place: 50, Group: withId(BindGroup) }],
  tools: [...inBelts(bindTool, { bones: 60 }), ...inBelts(weighTool, { bones: 70 })],
  marks: [boneWeights, partWeights],
  bars: [WeighBar],
  actions: BIND_ACTIONS,
}
