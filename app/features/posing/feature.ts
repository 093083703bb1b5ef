/** Posing in the interface. */
import { listenToCues } from './cues'
import { inBelts, type Feature } from '../../panels/feature'
import { POSING_ACTIONS } from './actions'
import { poseTool } from './poseTool'

export const posing: Feature = {
  name: 'posing',
  connect: listenToCues,
  tools: inBelts(poseTool, { parts: 20, shape: 10, face: 10, rehearse: 10, send: 10 }),
  actions: POSING_ACTIONS,
}
