import { describe, expect, test } from 'vitest'
import type { Puppet } from '../puppet/schema'
import { valuesInClip } from '../playing/clips'
import { run } from '../puppet/edit'
import { keepPose } from '../poses/saved'
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import { nth } from '../kernel/sure'
import { armPuppet } from '../test/puppets'
import { addClip, deleteLayer } from './commands'
import { newKey } from './edits'
import { clipOf } from './lookup'
import { newClip, newLayer } from './new'
import { addMood } from './moodCommands'

const BROWS = 'control/brows/value'

/** A puppet whose clip lifts the brows by a fifth, and that keeps a mood with brows at 0.6. */
function acting(): Puppet {
  let puppet = run(armPuppet(), addControl, { control: newControl('brows', 'Brows') })
  puppet = run(puppet, keepPose, { pose: { id: 'glad', name: 'Glad', values: { [BROWS]: 0.6 }, face: 'mood' } })
  const layer = newLayer('base', 'Base')
  layer.tracks[BROWS] = { keys: [newKey(0, 0.2)], before: 'hold', after: 'hold' }
  return run(puppet, addClip, { clip: newClip('clip', 'Clip', { length: 4, layers: [layer] }) })
}

const brows = (puppet: Puppet, time: number): number => valuesInClip(puppet, clipOf(puppet, 'clip'), time)[BROWS]!

describe('the mood of a stretch', () => {
  const args = { clip: 'clip', layer: 'mood', pose: 'glad', from: 1, to: 3, ease: 0.25 }

  test('is added to what is acted, comes, stays and goes', () => {
    const puppet = run(acting(), addMood, args)
    for (const time of [0, 0.9, 1, 3, 3.5]) expect(brows(puppet, time)).toBeCloseTo(0.2, 9)
    for (const time of [1.25, 2, 2.75]) expect(brows(puppet, time)).toBeCloseTo(0.8, 9)
    expect(brows(puppet, 1.125)).toBeCloseTo(0.5, 9)
    expect(nth(clipOf(puppet, 'clip').layers, -1).name).toBe('Mood: Glad')
  })

  test('goes whole with its layer', () => {
    const gone = run(run(acting(), addMood, args), deleteLayer, { clip: 'clip', layer: 'mood' })
    expect(clipOf(gone, 'clip')).toEqual(clipOf(acting(), 'clip'))
  })

  test('in a short stretch still comes and goes; none is made of nothing', () => {
    const short = run(acting(), addMood, { ...args, to: 1.5, ease: 5 })
    expect(brows(short, 1.25)).toBeCloseTo(0.8, 9)
    expect(() => run(acting(), addMood, { ...args, pose: 'gone' })).toThrow('not kept')
    expect(() => run(acting(), addMood, { ...args, to: 1 })).toThrow('needs a stretch')
  })
})
