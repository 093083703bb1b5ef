/** Marlo's face: a mouth that speaks and feels, eyes that look and blink. */
import { boardEdits } from '@marionette/core/face/expressions'
import { eyesEdits } from '@marionette/core/face/eyes'
import { mouthEdits } from '@marionette/core/face/mouth/build'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyEdits } from '@marionette/core/puppet/edit'
import { sure } from '@marionette/core/kernel/sure'

const partNamed = (puppet: Puppet, name: string): string =>
  sure(Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)).id

/** Canvas y of the line below which the face goes down with the jaw. */
const JAW_LINE = 300

export function withFace(puppet: Puppet): Puppet {
  const named = (name: string): string => partNamed(puppet, name)
  const mouth = mouthEdits(
    puppet,
    {
      parts: {
        ...{ lips: named('Lips'), teethUpper: named('Teeth upper'), teethLower: null, tongue: named('Tongue') },
        along: [named('Mouth corners')],
        below: [named('Lip shadow')],
        lowerBeak: null,
      },
      ...{ jaw: { face: named('Face'), line: JAW_LINE, amount: 0.3 }, opening: 0.55 },
    },
    'marlo-mouth',
  )
  const eyes = ['right', 'left'].map((side) => ({
    ...{
      white: named(`Eye white ${side}`),
      iris: named(`Iris ${side}`),
      lid: named(`Lid ${side}`),
      lashes: [named(`Lash ${side}`)],
      area: null,
    },
  }))
  const face = applyEdits(puppet, [...mouth, ...eyesEdits(puppet, { eyes, reach: 0.8, every: 3.6, gaze: 'pad' }, 'marlo-eyes')]).puppet
  return applyEdits(face, boardEdits(face, 'marlo')).puppet
}
