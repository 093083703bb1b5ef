/** Controls in the interface. */
import { withId } from '../../panels/about'
import type { Feature } from '../../panels/feature'
import { CONTROL_ACTIONS } from './actions'
import { ControlForBone } from './ControlForBone'
import { StageControls } from './StageControls'

export const controls: Feature = {
  name: 'controls',
  details: [{ about: 'bone', place: 40, shows: ({ bench }) => bench !== 'bones', Group: withId(ControlForBone) }],
  bars: [StageControls],
  actions: CONTROL_ACTIONS,
}
