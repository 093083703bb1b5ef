/** Posing in the interface. */
import { listenToCues } from './cues'
import { inBelts, type Feature } from '../../panels/feature'
import { POSING_ACTIONS } from './actions'
import { poseTool } from './poseTool'
import { perform } from '../../editor/document'
import { applyPose } from '@marionette/core/poses/saved'
import { edit } from '@marionette/core/kernel/command'

export const posing: Feature = {
  name: 'posing',
  connect: listenToCues,
  tools: inBelts(poseTool, { parts: 20, shape: 10, face: 10, rehearse: 10, send: 10 }),
  actions: POSING_ACTIONS,
  finds: ({ poses }) =>
    poses
      .filter((p) => p.face === null)
      .map(({ id, name }) => ({
        ...{ id, name, kind: 'Pose', benches: [] },
        show: (editor) => perform(editor, [edit(applyPose, { pose: id, share: 1, only: null })], `Take up ${name}`),
      })),
}
