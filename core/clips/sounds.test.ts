import { describe, expect, test } from 'vitest'
import { nth, sure } from '../kernel/sure'
import { EditError } from '../kernel/errors'
import { assetsOf, paintedAssetsOf } from '../parts/tree'
import { run } from '../puppet/edit'
import type { Puppet } from '../puppet/schema'
import { armPuppet } from '../test/puppets'
import { addClip, addLayer, copyClip } from './commands'
import { newClip, newLayer } from './new'
import type { SoundPiece } from './records'
import { addSound, deleteSound, setSound, setSpoken, splitSound } from './soundCommands'

const CLIP = { clip: 'act' }
const hum: SoundPiece = {
  ...{ id: 'hum', name: 'Hum', asset: 'b'.repeat(64), duration: 3 },
  ...{ at: 1, from: 0.5, length: 2, volume: 1, muted: false },
}
const heard = run(run(armPuppet(), addClip, { clip: newClip('act', 'Act', { length: 5 }) }), addSound, { ...CLIP, sound: hum })
const soundsOf = (puppet: Puppet): readonly SoundPiece[] => nth(puppet.clips, 0).sounds
/** What of the recording is heard at a moment of the clip, seconds of the recording; null for silence. */
const heardAt = (puppet: Puppet, time: number): number | null => {
  const piece = soundsOf(puppet).find(({ at, length }) => time >= at && time < at + length)
  return piece ? piece.from + time - piece.at : null
}

describe('sounds of a clip', () => {
  test('are what a puppet needs, and nothing that it is painted with', () => {
    expect(assetsOf(heard)).toContain(hum.asset)
    expect(paintedAssetsOf(heard)).not.toContain(hum.asset)
    expect(assetsOf(run(heard, deleteSound, { ...CLIP, sound: 'hum' }))).not.toContain(hum.asset)
  })

  test('stay in their order, wherever they are moved', () => {
    const both = run(heard, addSound, { ...CLIP, sound: { ...hum, id: 'early', at: 0 } })
    expect(soundsOf(both).map(({ id }) => id)).toEqual(['hum', 'early'])
    expect(soundsOf(run(both, setSound, { ...CLIP, sound: 'hum', at: 4 })).map(({ id }) => id)).toEqual(['hum', 'early'])
  })

  test('split in two are heard as before, at every moment', () => {
    const split = run(heard, splitSound, { ...CLIP, sound: 'hum', time: 1.75, id: 'rest' })
    expect(soundsOf(split)).toHaveLength(2)
    for (let time = 0; time < 5; time += 0.05)
      expect(heardAt(split, time)).toEqual(heardAt(heard, time) && expect.closeTo(heardAt(heard, time)!, 9))
    expect(() => run(heard, splitSound, { ...CLIP, sound: 'hum', time: 0.5, id: 'rest' })).toThrow(EditError)
  })

  test('cannot be longer than their recording, and keep their names in copies', () => {
    expect(() => run(heard, setSound, { ...CLIP, sound: 'hum', length: 2.6 })).toThrow('ends after 3.00 s')
    const said = run(run(heard, addLayer, { ...CLIP, layer: newLayer('talk', 'Talk') }), setSpoken, {
      ...{ ...CLIP, layer: 'talk' },
      spoken: { start: 1, duration: 1, cues: [{ viseme: 'aa', at: 0, word: 0 }], mood: '', sound: 'hum' },
    })
    const copied = run(said, copyClip, { ...CLIP, id: 'again', name: 'Again', mirrored: false })
    const copy = nth(copied.clips, 1)
    expect(sure(nth(copy.layers, 1).spoken).sound).toBe(nth(copy.sounds, 0).id)
    expect(nth(copy.sounds, 0).id).not.toBe('hum')
    // What a line is heard with goes, and the line stays.
    expect(sure(nth(nth(run(said, deleteSound, { ...CLIP, sound: 'hum' }).clips, 0).layers, 1).spoken).sound).toBeNull()
  })

  test('lines whose shapes are not in order are refused', () => {
    const puppet = run(heard, addLayer, { ...CLIP, layer: newLayer('talk', 'Talk') })
    const say = (...times: number[]) =>
      run(puppet, setSpoken, {
        ...{ ...CLIP, layer: 'talk' },
        spoken: { start: 0, duration: 1, cues: times.map((at) => ({ viseme: 'aa' as const, at, word: 0 })), mood: '', sound: null },
      })
    for (const times of [[0.2], [0, 0.5, 0.4], [0, 0.5, 0.5], [0, 2]]) expect(() => say(...times)).toThrow('one after the other')
    expect(nth(nth(say(0, 0.4, 1).clips, 0).layers, 1).spoken).not.toBeNull()
  })
})
