/** Controls in the interface. */
import { isForPeople } from '@marionette/core/controls/records'
import { withId } from '../../panels/about'
import type { Feature } from '../../panels/feature'
import { CONTROL_ACTIONS } from './actions'
import { ControlForBone } from './ControlForBone'
import { StageControls } from './StageControls'
import { selectControl } from '../../editor/session'

export const controls: Feature = {
  name: 'controls',
  details: [{ about: 'bone', place: 40, shows: ({ bench }) => bench !== 'bones', Group: withId(ControlForBone) }],
  bars: [StageControls],
  finds: (puppet) =>
    puppet.controls
      .filter(isForPeople)
      .map(({ id, name }) => ({ id, name, kind: 'Control', benches: [], show: (editor) => selectControl(editor, id) })),
  actions: CONTROL_ACTIONS,
}
