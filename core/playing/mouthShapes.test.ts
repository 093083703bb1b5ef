import { describe, expect, test } from 'vitest'
import { setKeys } from '../clips/keyCommands'
import { addSound } from '../clips/soundCommands'
import type { Clip, ClipLayer, Spoken } from '../clips/records'
import { nth, sure } from '../kernel/sure'
import { applyEdits, run } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { speakingPuppet } from '../test/speaking'
import { trackOf } from '../speech/track'
import { valuesInClip } from './clips'
import { mergedShape, movedShape, moveSpokenEdits, replacedShape, respeakEdits, splitShape } from './mouthShapes'
import { playedValues } from './playing'
import { speechEdits } from './speechKeys'

const line = trackOf(['M', 'AA', 'M', 'UW', 'S', 'AA'].map((name) => ({ name, seconds: 0.2, word: 0 })))
const START = 0.5
const silent = speakingPuppet()
const clipOf = (puppet: Puppet): Clip => nth(puppet.clips, 0)
const layerOf = (puppet: Puppet): ClipLayer => nth(clipOf(puppet).layers, 1)
const saidBy = (puppet: Puppet): Spoken => sure(layerOf(puppet).spoken)
const speaking = applyEdits(silent, speechEdits(silent, clipOf(silent), line, { id: 'said', name: 'Said', start: START })).puppet
const respoken = (next: Spoken, from = speaking): Puppet => applyEdits(from, respeakEdits(from, clipOf(from), layerOf(from), next)).puppet

/** By how much at most what is keyed differs from what a line plays. */
function fault(puppet: Puppet): number {
  const { duration, cues } = saidBy(puppet)
  let most = 0
  for (let k = 1; k < 500; k++) {
    const time = (duration * k) / 500 - 1e-5
    for (const [address, value] of Object.entries(playedValues(silent, { time, speech: { duration, cues }, mood: '' })))
      if (!address.endsWith('/before'))
        most = Math.max(most, Math.abs((valuesInClip(puppet, clipOf(puppet), START + time)[address] ?? 0) - value))
  }
  return most
}

describe('mouth shapes', () => {
  test.each<[string, (spoken: Spoken) => Spoken]>([
    ['moved', (s) => movedShape(s, 2, nth(s.cues, 2).at + 0.05)],
    ['replaced', (s) => replacedShape(s, 3, 'ee')],
    ['replaced at the beginning', (s) => replacedShape(s, 0, 'aa')],
    ['merged with the one before', (s) => mergedShape(s, 3)],
    ['merged at the beginning', (s) => mergedShape(s, 0)],
    ['merged at the end', (s) => mergedShape(s, s.cues.length - 1)],
    ['put in between', (s) => splitShape(s, nth(s.cues, 1).at + 0.1, 'oo')],
  ])('%s play as a line with these shapes plays', (_, change) => {
    const next = change(saidBy(speaking))
    expect(next).not.toEqual(saidBy(speaking))
    const after = respoken(next)
    expect(saidBy(after)).toEqual(next)
    expect(fault(after)).toBeLessThan(1e-4)
  })

  test('keys beyond the neighbours of what changed stay as they were shaped', () => {
    const channel = 'control/open/value'
    const late = START + nth(saidBy(speaking).cues, 4).at + 0.05
    const shaped = run(speaking, setKeys, { clip: clipOf(speaking).id, layer: 'said', keys: [{ channel, time: late, value: 0.77 }] })
    const after = respoken(replacedShape(saidBy(shaped), 1, 'oo'), shaped)
    expect(valuesInClip(after, clipOf(after), late)[channel]).toBeCloseTo(0.77, 9)
  })

  test('stay between their neighbours and the ends of the line', () => {
    const { cues } = saidBy(speaking)
    expect(nth(movedShape(saidBy(speaking), 1, 99).cues, 1).at).toBeLessThan(nth(cues, 2).at)
    expect(nth(movedShape(saidBy(speaking), 1, -99).cues, 1).at).toBeGreaterThan(0)
    expect(movedShape(saidBy(speaking), 0, 0.1)).toBe(saidBy(speaking))
    expect(mergedShape({ ...saidBy(speaking), cues: cues.slice(0, 1) }, 0).cues).toHaveLength(1)
  })

  test('neighbours that become the same are one', () => {
    const said = saidBy(speaking)
    expect(replacedShape(said, 1, nth(said.cues, 0).viseme).cues.length).toBeLessThan(said.cues.length)
  })

  test('a line that is moved takes its sound and its weight along, and goes no farther than the beginning', () => {
    const sound = { id: 'voice', name: 'Voice', asset: 'a'.repeat(64), duration: 2, at: START, from: 0, length: 2, volume: 1, muted: false }
    const heard = run(silent, addSound, { clip: clipOf(silent).id, sound })
    const both = applyEdits(
      heard,
      speechEdits(heard, clipOf(heard), line, { id: 'said', name: 'Said', start: START, sound: 'voice' }),
    ).puppet
    const later = applyEdits(both, moveSpokenEdits(clipOf(both), layerOf(both), 0.75)).puppet
    expect(nth(clipOf(later).sounds, 0).at).toBeCloseTo(START + 0.75, 9)
    for (const time of [0.1, 0.4, 0.7])
      for (const [address, value] of Object.entries(valuesInClip(both, clipOf(both), START + time)))
        expect(valuesInClip(later, clipOf(later), START + time + 0.75)[address]).toBeCloseTo(value, 9)
    const first = applyEdits(both, moveSpokenEdits(clipOf(both), layerOf(both), -9)).puppet
    expect(saidBy(first).start).toBeGreaterThanOrEqual(0)
    expect(saidBy(first).start).toBeLessThan(0.2)
  })
})
