/** A ready motion made into a clip of one puppet. Playing it is playing that clip: there is no other way in which it plays. */
import { newKey, putKey } from '../clips/edits'
import { newClip, newLayer } from '../clips/new'
import type { Clip } from '../clips/records'
import { clampTo } from '../kernel/channel'
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import { bodyOf } from './body'
import { creatureOf, type BodyKind } from './creature'
import { creatureResolved } from './creaturePose'
import { kindOf } from './ready'
import { mirroredTerms, type Motion, type Terms } from './motion'
import { resolved } from './resolve'

/** How a motion is acted. */
export interface Manner {
  /** 1 is as it was written. */
  readonly strength: number
  readonly speed: number
  readonly mirrored: boolean
}

export interface Baked {
  readonly clip: Clip
  /** Roles that it needs and the puppet has not: what they would do is left out. */
  readonly missing: readonly string[]
}

/** Frames a second of the clip; its beats lie on whole frames. */
const RATE = 24

/** What terms mean for a puppet, taken for a body of a kind. */
function fittedTo(puppet: Puppet, kind: BodyKind, strength: number): (terms: Terms) => ReturnType<typeof resolved> {
  if (kind === 'person') {
    const body = bodyOf(puppet)
    return (terms) => resolved({ body, strength }, terms)
  }
  const creature = creatureOf(puppet)
  return (terms) => creatureResolved(creature, strength, terms)
}

/** Makes the clip; without any key where the puppet has nothing that the motion needs. */
export function bakeMotion(puppet: Puppet, motion: Motion, { strength, speed, mirrored }: Manner, id: string): Baked {
  const fitted = fittedTo(puppet, kindOf(motion), strength)
  const layer = newLayer(`${id}-base`, 'Base')
  const missing = new Set<string>()
  const beats = motion.beats.map((beat, k) => {
    const found = fitted(mirrored ? mirroredTerms(beat.terms) : beat.terms)
    found.missing.forEach((role) => missing.add(role))
    return { ...found, id: `${id}-pose-${k + 1}`, name: beat.name, time: Math.round((beat.at / speed) * RATE) / RATE }
  })
  const channels = new Set(beats.flatMap(({ values }) => Object.keys(values)))
  for (const { id: pose, time, values } of beats)
    for (const address of channels) {
      const channel = channelOf(puppet, address)
      if (channel) putKey(layer, address, newKey(time, clampTo(channel, values[address] ?? channel.rest), pose))
    }
  const poses = beats.map(({ id: pose, name, time }) => ({ id: pose, name, time }))
  const length = Math.max(0.1, motion.length / speed)
  return {
    clip: newClip(id, motion.name, { length, rate: RATE, layers: [layer], poses: channels.size > 0 ? poses : [] }),
    missing: [...missing],
  }
}
