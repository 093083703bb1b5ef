/** Joints in the interface. */
import { inBelts, type Feature } from '../../panels/feature'
import { JOINT_ACTIONS } from './actions'
import { JointsGroup } from './JointsGroup'
import { jointTool } from './jointTool'
import { selectJoint } from './making'
import { recordOf } from '@marionette/core/kernel/sure'

export const joints: Feature = {
  name: 'joints',
  details: [
    {
      about: 'part',
      place: 110,
      shows: ({ puppet, ids }) => ids[0] !== puppet.root,
      Group: ({ ids: [id = ''] }) => <JointsGroup part={id} />,
    },
    { about: 'puppet', place: 50, Group: () => <JointsGroup /> },
  ],
  tools: inBelts(jointTool, { parts: 50 }),
  finds: ({ joints, parts }) =>
    Object.values(joints).map(({ id, over, under }) => ({
      ...{ id, kind: 'Joint', benches: ['parts'] },
      name: `${recordOf(parts, over).name} on ${recordOf(parts, under).name}`,
      show: (editor) => selectJoint(editor, id),
    })),
  actions: JOINT_ACTIONS,
}
