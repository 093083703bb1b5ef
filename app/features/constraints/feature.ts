/** Targets and constraints in the interface. */
import { useSession } from '../../editor/session'
import { inBelts, type Feature } from '../../panels/feature'
import { ConstraintsGroup } from './ConstraintsGroup'
import { drawTargets } from './targetMarks'
import { targetTool } from './targetTool'

export const constraints: Feature = {
  name: 'constraints',
  details: [{ about: 'bone', place: 50, Group: ({ ids: [bone = ''] }) => ConstraintsGroup({ bone }) }],
  tools: inBelts(targetTool, { bones: 80 }),
  marks: [
    {
      layer: 'bones',
      draw(editor, pen, camera, model, colours, showsBones) {
        if (showsBones || useSession.of(editor).getState().bench === 'face') drawTargets(pen, camera, model, colours, null)
      },
    },
  ],
}
