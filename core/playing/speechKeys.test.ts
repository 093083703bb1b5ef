import { describe, expect, test } from 'vitest'
import { addClip } from '../clips/commands'
import { newClip } from '../clips/new'
import { applyEdits, run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import { speakingPuppet } from '../test/speaking'
import { trackOf } from '../speech/track'
import { valuesInClip } from './clips'
import { playedValues } from './playing'
import { speechEdits } from './speechKeys'

const line = trackOf(['G', 'UH', 'D', 'M', 'AO', 'R', 'N', 'IH', 'NG'].map((name) => ({ name, seconds: 0.13, word: 0 })))

describe('a line put into a clip', () => {
  const puppet = speakingPuppet()
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
