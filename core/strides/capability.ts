/** Strides: legs that walk by themselves. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import { strideChannels } from './channels'
import * as commands from './commands'

const chain = (at: string, says: string): Reference => ({
  ...{ at: `strides/*/${at}/*/bones/*`, to: 'bone', says },
  gone: { drop: `strides/*/${at}/*/bones/*`, empty: `strides/*/${at}/*` },
})
const one = (at: string, says: string): Reference => ({ at: `strides/*/${at}`, to: 'bone', says, gone: { clear: `strides/*/${at}` } })

const references: Reference[] = [
  chain('legs', 'walks with'),
  chain('swings', 'swings'),
  one('legs/*/foot', 'stands on'),
  one('legs/*/toe', 'bends'),
  one('hips', 'turns'),
  one('chest', 'turns'),
  one('head', 'keeps level'),
  { at: 'strides/*/ways/#', to: 'view', says: 'knows its way in', gone: { drop: 'strides/*/ways/#' } },
]

/** What strides add to a puppet. */
export const strides: Capability = {
  name: 'strides',
  kinds: [listedKind('stride', 'stride', 'strides')],
  references,
  channels: [strideChannels],
  commands: [commands],
}
