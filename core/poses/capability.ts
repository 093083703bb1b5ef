/** Poses: what the stage shows, what was kept of it, and keys that show it. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import * as commands from './commands'
import * as saved from './saved'

/** Channels that a pose may hold. */
export const MOST_POSED = 50_000

const references: Reference[] = [
  { at: 'pose/#', to: 'channel', says: 'poses', gone: { drop: 'pose/#' } },
  { at: 'poses/*/values/#', to: 'channel', says: 'names', gone: { drop: 'poses/*/values/#' } },
  { at: 'cues/*/channel', to: 'channel', says: 'names', gone: { drop: 'cues/*' } },
]

/** What saved poses and cues add to a puppet. */
export const poses: Capability = {
  name: 'poses',
  kinds: [listedKind('pose', 'kept pose', 'poses'), listedKind('cue', 'key', 'cues')],
  references,
  checks: [
    {
      stage: 'trees',
      needs: ['pose'],
      find: ({ pose }) => (Object.keys(pose).length > MOST_POSED ? [{ path: 'pose', message: `has more than ${MOST_POSED} values` }] : []),
    },
  ],
  commands: [commands, saved],
}
