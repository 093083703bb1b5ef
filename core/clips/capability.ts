/** Clips: short acting, keyed. */
import type { Capability } from '../kernel/capability'
import { listedKind, type IdAt, type RecordKind, type Reference } from '../kernel/records'
import type { Problem } from '../kernel/problem'
import type { Puppet } from '../puppet/schema'
import { layerChannels } from './channels'
import * as commands from './commands'
import * as keyCommands from './keyCommands'
import * as moodCommands from './moodCommands'
import * as moveCommands from './moveCommands'
import * as poseCommands from './poseCommands'
import * as retiming from './retime'
import * as soundCommands from './soundCommands'
import * as spacing from './spacing'
import { isSameTime } from './lookup'
import type { Clip } from './records'
import { nth } from '../kernel/sure'

const LAYER = 'clips/*/layers/*'

/** A kind of thing that stands in lists inside of clips. */
const inClips = (kind: string, label: string, listed: (clip: Clip) => readonly { readonly id: string }[]): RecordKind => ({
  ...{ kind, label, field: 'clips', filed: false },
  *ids({ clips }): Iterable<IdAt> {
    for (const clip of clips) for (const { id } of listed(clip)) yield { path: `clips.${clip.id}.${id}`, id }
  },
  has: ({ clips }, id) => clips.some((clip) => listed(clip).some((thing) => thing.id === id)),
})

const references: Reference[] = [
  { at: `${LAYER}/tracks/#`, to: 'channel', says: 'moves', gone: { drop: `${LAYER}/tracks/#` } },
  { at: `${LAYER}/tracks/*/keys/*/pose`, to: 'hung-pose', says: 'belongs to', gone: { clear: `${LAYER}/tracks/*/keys/*/pose` } },
  { at: `${LAYER}/parts/*`, to: 'part', says: 'is kept to', gone: { drop: `${LAYER}/parts/*` } },
  { at: `${LAYER}/spoken/sound`, to: 'sound', says: 'is heard with', gone: { clear: `${LAYER}/spoken/sound` } },
  { at: 'clips/*/loose/#', to: 'channel', says: 'poses', gone: { drop: 'clips/*/loose/#' } },
]

/** Keys out of order, or two at one time, would make a curve without a value. */
function unsorted({ clips }: Puppet): Problem[] {
  return clips.flatMap((clip) =>
    clip.layers.flatMap((layer) =>
      Object.entries(layer.tracks).flatMap(([address, { keys }]) => {
        const isFine = keys.slice(1).every((key, k) => key.time > nth(keys, k).time && !isSameTime(key.time, nth(keys, k).time))
        return isFine ? [] : [{ path: `clips.${clip.id}.${layer.id}.${address}`, message: 'has keys that are not in order of time' }]
      }),
    ),
  )
}

/** What clips add to a puppet. */
export const clips: Capability = {
  name: 'clips',
  kinds: [
    listedKind('clip', 'clip', 'clips'),
    inClips('layer', 'layer', (clip) => clip.layers),
    inClips('hung-pose', 'pose on the line', (clip) => clip.poses),
    inClips('marker', 'marker', (clip) => clip.markers),
    inClips('sound', 'sound', (clip) => clip.sounds),
  ],
  references,
  checks: [{ stage: 'records', needs: ['clips'], find: unsorted }],
  channels: [layerChannels],
  commands: [commands, keyCommands, poseCommands, moveCommands, moodCommands, soundCommands, retiming, spacing],
}
