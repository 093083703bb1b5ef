/** Clips in the interface. */
import { inBelts, type Feature } from '../../panels/feature'
import { followBench, openClip } from './acting'
import { CLIP_ACTIONS } from './actions'
import { ClipDetails } from './ClipDetails'
import { deleteByKey } from './deleting'
import { motionPathMark } from './motionPath'
import { onionGhosts } from './onion'
import { pathTool } from './pathTool'
import { quietWhenStopped } from './playing'
import { layClipAround } from './posed'
import { endRecordings } from './sounds'
import { Timeline } from './Timeline'

export const clips: Feature = {
  name: 'clips',
  connect(editor) {
    const ends = [layClipAround(editor), followBench(editor), deleteByKey(editor), quietWhenStopped(editor), endRecordings(editor)]
    return () => ends.reverse().forEach((end) => end())
  },
  details: (['puppet', 'part', 'bone'] as const).map((about) => ({
    about,
    place: 0,
    shows: ({ bench }) => bench === 'rehearse',
    Group: ClipDetails,
  })),
  tools: inBelts(pathTool, { rehearse: 55 }),
  docks: [Timeline],
  ghosts: onionGhosts,
  marks: [motionPathMark],
  actions: CLIP_ACTIONS,
  finds: ({ clips: all }) =>
    all.map(({ id, name }) => ({ id, name, kind: 'Clip', benches: ['rehearse'], show: (editor) => openClip(editor, id) })),
}
