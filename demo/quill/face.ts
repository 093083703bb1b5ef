/** Quill's face: a beak that speaks in painted alternates, an eye that looks about, and painted lids at three heights. */
import { eyesEdits } from '@marionette/core/face/eyes'
import { soundsByNames } from '@marionette/core/face/sounds'
import type { Puppet, Tie } from '@marionette/core/puppet/schema'
import { applyEdits, run } from '@marionette/core/puppet/edit'
import { addControl } from '@marionette/core/controls/commands'
import { keepPose } from '@marionette/core/poses/saved'
import { alternatesOf, makeSwap, setSwap } from '@marionette/core/alternates/commands'
import { newControl } from '@marionette/core/controls/new'
import { partChannel } from '@marionette/core/parts/channels'
import { nth, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

const partNamed = (puppet: Puppet, name: string): string =>
  sure(Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)).id

function withBeak(puppet: Puppet): Puppet {
  const beak = partNamed(puppet, 'Lower beak')
  const made = run(puppet, makeSwap, { group: beak })
  const { swap } = partOf(made, beak)
  const sounds = soundsByNames(alternatesOf(made, beak), sure(swap).initial, 'Everyday')
  const morph = { how: 'morph' as const, seconds: 0.09, eases: true }
  return run(made, setSwap, { part: beak, swap: { ...sure(swap), morph, sets: [sounds] } })
}

/** A slider that raises the feathers of the crest, as a heron does that is startled. */
function withCrest(puppet: Puppet): Puppet {
  const tie = (field: 'angle' | 'y', to: [number, number]): Tie => {
    return { channel: partChannel(partNamed(puppet, 'Crest'), field), axis: 'value', from: [-1, 1], to, curve: null }
  }
  const ties = [tie('angle', [-4, 7]), tie('y', [2, -9])]
  return run(puppet, addControl, { control: { ...newControl('quill-crest', 'Crest'), group: 'Head', colour: 2, ties } })
}

/** Moods of a bird whose face is its eye and its crest: shares of crest, lids, and gaze to the right and up. */
const MOODS: Readonly<Record<string, readonly [crest: number, lids: number, right: number, up: number]>> = {
  Haughty: [0.35, 0.5, -0.4, 0.3],
  Startled: [1, 0, 0.3, 0.2],
  Suspicious: [-0.3, 0.5, -1, 0],
  Absorbed: [-0.6, 0, -0.5, -0.9],
  Sleepy: [-0.8, 0.5, 0, -0.8],
  Asleep: [-1, 1, 0, 0],
}

function withMoods(puppet: Puppet): Puppet {
  const control = (name: string, axis = 'value'): string => `control/${sure(puppet.controls.find((c) => c.name === name)).id}/${axis}`
  const channels = [control('Crest'), control('Lids'), control('Gaze', 'x'), control('Gaze', 'y')]
  return Object.entries(MOODS).reduce((p, [name, shares]) => {
    const values = Object.fromEntries(channels.flatMap((channel, k) => (shares[k] ? [[channel, nth(shares, k)] as const] : [])))
    return run(p, keepPose, { pose: { id: `quill-${name.toLowerCase()}`, name, values, face: 'mood' } })
  }, puppet)
}

export function withFace(puppet: Puppet): Puppet {
  const spoken = withBeak(puppet)
  const lid = partNamed(spoken, 'Eyelid')
  const lidded = run(spoken, makeSwap, { group: lid })
  const eye = { white: partNamed(lidded, 'Eye'), iris: partNamed(lidded, 'Pupil'), lid, lashes: [], area: null }
  const seeing = applyEdits(lidded, eyesEdits(lidded, { eyes: [eye], reach: 0.7, every: 4.2, gaze: 'pad' }, 'quill-eye')).puppet
  return withMoods(withCrest(seeing))
}
