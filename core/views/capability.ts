/** Views: one puppet seen from several sides. */
import type { Capability } from '../kernel/capability'
import { listedKind, type Reference } from '../kernel/records'
import type { Puppet } from '../puppet/schema'
import type { Problem } from '../kernel/problem'
import { viewChannels } from './channels'
import * as commands from './commands'
import { shownView } from './views'

const kept = (at: string): Reference => ({ at, to: 'view', says: 'knows', gone: { drop: at } })

const references: Reference[] = [
  kept('parts/*/art/#'),
  ...['parts', 'bones', 'joints', 'targets'].map((field) => kept(`${field}/*/inViews/#`)),
]

interface InViews {
  readonly id: string
  readonly inViews: Readonly<Record<string, unknown>>
}

/** One view is shown. */
function viewProblems(puppet: Puppet): Problem[] {
  if (!puppet.views.some((v) => v.id === puppet.view)) return [{ path: 'view', message: `is "${puppet.view}", which is no view of it` }]
  return puppet.view === shownView(puppet) ? [] : [{ path: 'view', message: 'is not the one that the pose shows' }]
}

/** Nothing is kept aside for the view that is shown. */
function asideProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const { id, inViews } of [puppet.parts, puppet.bones, puppet.joints, puppet.targets].flatMap((r) => Object.values<InViews>(r)))
    if (puppet.view in inViews) out.push({ path: `${id}.inViews`, message: 'keeps aside what is shown' })
  return out
}

/** What views add to a puppet. */
export const views: Capability = {
  name: 'views',
  kinds: [listedKind('view', 'view', 'views')],
  references,
  checks: [
    { stage: 'records', needs: ['views', 'view', 'pose'], find: viewProblems },
    { stage: 'records', needs: ['view', 'parts', 'bones', 'joints', 'targets'], find: asideProblems },
  ],
  channels: [viewChannels],
  commands: [commands],
}
