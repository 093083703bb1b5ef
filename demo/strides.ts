/** How demo puppets walk, and clips in which they do. */
import { addClip } from '@marionette/core/clips/commands'
import { setKeys } from '@marionette/core/clips/keyCommands'
import { newClip } from '@marionette/core/clips/new'
import { addIdle } from '@marionette/core/idle/commands'
import { nth, sure } from '@marionette/core/kernel/sure'
import { idleFor } from '@marionette/core/motions/idleOf'
import { strideFor } from '@marionette/core/motions/strideOf'
import { turningKeys } from '@marionette/core/playing/turnRound'
import { run } from '@marionette/core/puppet/edit'
import type { Puppet } from '@marionette/core/puppet/schema'
import { strideSpeed } from '@marionette/core/strides/channels'
import { addStride } from '@marionette/core/strides/commands'
import type { Stride } from '@marionette/core/strides/records'
import { viewChannel } from '@marionette/core/views/channels'

/** A puppet that walks as its legs were found. */
export const withStride = (puppet: Puppet, prefix: string, name: string, given: Partial<Stride> = {}): Puppet =>
  run(puppet, addStride, { stride: { ...strideFor(puppet, `${prefix}-stride`, name), ...given } })

/** A puppet that breathes, shifts its weight, glances and blinks. */
export const withIdle = (puppet: Puppet, prefix: string): Puppet =>
  run(puppet, addIdle, { idle: idleFor(puppet, `${prefix}-idle`, 'Idle life') })

interface Acted {
  readonly id: string
  readonly name: string
  readonly length: number
  /** Paces from times on, seconds. */
  readonly paces: readonly (readonly [number, number])[]
  /** Where it begins, px from where it was drawn. */
  readonly from?: number
  /** The view that it begins in, and turns, each from a time on. */
  readonly view?: string
  readonly turns?: readonly (readonly [number, string])[]
}

/** A clip in which the first stride of a puppet goes at paces, and the puppet turns. */
export function withWalk(puppet: Puppet, { id, name, length, paces, from = 0, view, turns = [] }: Acted): Puppet {
  const { id: stride } = nth(puppet.strides, 0)
  const layer = `${id}-base`
  const stepped = (channel: string, time: number, value: number) => ({ channel, time, value, way: 'stepped' as const })
  const viewAt = (to: string): number => puppet.views.findIndex((one) => one.id === to)
  let acted = run(puppet, addClip, { clip: { ...newClip(id, name, { length }) } })
  acted = run(acted, setKeys, {
    ...{ clip: id, layer },
    keys: [
      ...paces.map(([time, pace]) => stepped(strideSpeed(stride), time, pace)),
      ...(from === 0 ? [] : puppet.skeleton.map((bone) => stepped(`bone/${bone}/x`, 0, from))),
      ...(view === undefined ? [] : [stepped(viewChannel(puppet), 0, viewAt(view))]),
    ],
  })
  for (const [time, to] of turns) {
    const clip = sure(acted.clips.find((one) => one.id === id))
    const keys = turningKeys(acted, clip, time, to).map((key) => stepped(viewChannel(puppet), key.time, key.value))
    acted = run(acted, setKeys, { clip: id, layer, keys })
  }
  return acted
}
