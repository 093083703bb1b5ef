/** Quill's face: a beak that speaks in painted alternates, an eye that looks about, and painted lids at three heights. */
import { eyesEdits } from '@marionette/core/artwork/eyes'
import { soundsByNames } from '@marionette/core/artwork/sounds'
import { partChannel } from '@marionette/core/document/channels'
import { newControl } from '@marionette/core/document/new'
import type { Puppet, Tie } from '@marionette/core/document/schema'
import { applyEdits, run } from '@marionette/core/edit/command'
import { addControl } from '@marionette/core/edit/controls'
import { keepPose } from '@marionette/core/edit/savedPoses'
import { alternatesOf, makeSwap, setSwap } from '@marionette/core/edit/swaps'

const partNamed = (puppet: Puppet, name: string): string =>
  Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)!.id

function withBeak(puppet: Puppet): Puppet {
  const beak = partNamed(puppet, 'Lower beak')
  const made = run(puppet, makeSwap, { group: beak })
  const { swap } = made.parts[beak]!
  const sounds = soundsByNames(alternatesOf(made, beak), swap!.initial, 'Everyday')
  const melt = { how: 'melt' as const, seconds: 0.09, eases: true }
  return run(made, setSwap, { part: beak, swap: { ...swap!, melt, sets: [sounds] } })
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
  const control = (name: string, axis = 'value'): string => `control/${puppet.controls.find((c) => c.name === name)!.id}/${axis}`
  const channels = [control('Crest'), control('Lids'), control('Gaze', 'x'), control('Gaze', 'y')]
  return Object.entries(MOODS).reduce((p, [name, shares]) => {
    const values = Object.fromEntries(channels.flatMap((channel, k) => (shares[k] ? [[channel, shares[k]!] as const] : [])))
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
