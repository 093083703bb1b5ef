import { describe, expect, test } from 'vitest'
import { addClip } from '../clips/commands'
import { newClip } from '../clips/new'
import { applyEdits, run } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import { makeSwap, setSwap } from '../alternates/commands'
import { addArtwork } from '../puppet/artworkCommands'
import { newPart } from '../parts/new'
import { newPuppet } from '../puppet/new'
import { trackOf } from '../speech/track'
import { valuesInClip } from './clips'
import { playedValues } from './playing'
import { speechEdits } from './speechKeys'

const line = trackOf(['G', 'UH', 'D', 'M', 'AO', 'R', 'N', 'IH', 'NG'].map((name) => ({ name, seconds: 0.13, word: 0 })))

/** A mouth of two controls, and one of alternates that morph. */
function speaking(): Puppet {
  let puppet = newPuppet('p', 'P', { width: 100, height: 100 })
  const parts = [newPart('mouth', 'Mouth'), ...['shut', 'agape'].map((id) => ({ ...newPart(id, id), parent: 'mouth' }))]
  puppet = run(run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [] }), makeSwap, { group: 'mouth' })
  const { swap } = puppet.parts['mouth']!
  const sets = [{ name: 'Everyday', sounds: { rest: 1, aa: 2, mbp: 1 } }]
  puppet = run(puppet, setSwap, { part: 'mouth', swap: { ...swap!, morph: { how: 'morph', seconds: 0.1, eases: true }, sets } })
  for (const voice of ['open', 'wide'] as const)
    puppet = run(puppet, addControl, { control: { ...newControl(voice, voice), voice, range: { min: 0, max: 1, rest: 0 } } })
  return run(puppet, addClip, { clip: newClip('talk', 'Talk', { length: 4 }) })
}

describe('a line put into a clip', () => {
  const puppet = speaking()
  const spoken = applyEdits(puppet, speechEdits(puppet, puppet.clips[0]!, line, { id: 'good', name: 'Good morning', start: 0.5 })).puppet
  const at = (time: number): Record<string, number> => valuesInClip(spoken, spoken.clips[0]!, time)

  test('plays what the line plays', () => {
    let most = 0
    for (let k = 1; k < 400; k++) {
      const time = (line.duration * k) / 400 - 1e-5
      const heard = playedValues(puppet, { time, speech: line, mood: '' })
      for (const [address, value] of Object.entries(heard)) {
        const keyed = at(0.5 + time)[address] ?? 0
        if (address.endsWith('/before')) continue
        most = Math.max(most, Math.abs(keyed - value))
      }
    }
    expect(most).toBeLessThan(1e-4)
  })

  test('leaves the mouth alone before and after, and goes as one layer', () => {
    expect(at(0.1)['control/open/value'] ?? 0).toBe(0)
    expect(at(0.5 + line.duration + 0.5)['control/open/value'] ?? 0).toBe(0)
    expect(spoken.clips[0]!.layers.map((l) => l.name)).toEqual(['Base', 'Good morning'])
  })

  test('nothing that speaks gets no layer', () => {
    const mute = run(newPuppet('q', 'Q', { width: 9, height: 9 }), addClip, { clip: newClip('talk', 'Talk') })
    expect(speechEdits(mute, mute.clips[0]!, line, { id: 'good', name: 'Good', start: 0 })).toEqual([])
  })
})
