/** Idle life for a puppet as it was rigged: what breathes, shifts, blinks and glances is found by roles and names. */
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import type { Idle } from '../idle/records'
import { bodyOf } from './body'
import { creatureOf } from './creature'
import { leadsOf } from './leads'

/** Share of what a control can do by which eyes glance at most. */
const GLANCES = 0.5

/** Idle life with usual numbers. What a puppet has nothing for is left out. */
export function idleFor(puppet: Puppet, id: string, name: string): Idle {
  const { bones, limbs, leg } = bodyOf(puppet)
  const { root } = creatureOf(puppet)
  const leads = leadsOf(puppet)
  const lids = leads.get('lids')
  const [x, y] = [leads.get('gaze.x') ?? null, leads.get('gaze.y') ?? null]
  const chest = bones.get('chest') ?? bones.get('torso') ?? bones.get('spine') ?? root
  const belly = bones.get('belly') ?? null
  const shoulders = ['left', 'right'].flatMap((side) => limbs.get(`arm:${side}`)?.upper.id ?? [])
  const far = x ? x.valueAt(GLANCES) - (channelOf(puppet, x.channel)?.rest ?? 0) : 0
  return {
    ...{ id, name, amount: 1, seed: 1 },
    breath: { rate: 14, depth: 1, chest: chest?.id ?? null, belly: belly?.id ?? null, shoulders },
    shift: { far: Math.round(leg * 0.4) / 10, every: 5 },
    blink: { channel: lids?.channel ?? null, shut: lids?.valueAt(1) ?? 0, every: 3.6 },
    glance: { x: x?.channel ?? null, y: y?.channel ?? null, far: Math.round(1000 * far) / 1000, every: 2.8 },
  }
}
