import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { boardEdits, boardOf, proposedMoods } from '../face/expressions'
import { channelOf } from '../puppet/channels'
import { newPuppet } from '../puppet/new'
import type { Puppet } from '../puppet/schema'
import type { Voice } from '../controls/records'
import { VISEMES } from '../speech/visemes'
import { applyEdits, run } from '../puppet/edit'
import { addControl, deleteControl } from '../controls/commands'
import { setPose } from '../poses/commands'
import { deleteCue, forgetPose, keepPose, moodChannels, setCue, takeMood } from '../poses/saved'
import { heldSound, soundValues } from './moods'
import { newPart } from '../parts/new'
import { newControl } from '../controls/new'
import { addArtwork } from '../puppet/artworkCommands'

const at = (id: string): string => `control/${id}/value`

/** A face that is all controls: a mouth, brows and lids. */
function face(): Puppet {
  const voices: Record<string, Voice> = { open: 'open', wide: 'wide', teeth: 'teeth', tongue: 'tongue' }
  let puppet = run(newPuppet('p', 'P', { width: 100, height: 100 }), addArtwork, {
    parent: 'p-root',
    parts: [newPart('head', 'Head')],
    drawings: [],
  })
  for (const [id, name] of Object.entries({
    open: 'Open',
    wide: 'Width',
    teeth: 'Teeth',
    tongue: 'Tongue',
    mood: 'Mood',
    brows: 'Brows',
    lids: 'Lids',
  })) {
    const voice = voices[id]
    const isOneSided = ['open', 'teeth', 'tongue', 'lids'].includes(id)
    const control = { ...newControl(id, name), ...(isOneSided && { range: { min: 0, max: 1, rest: 0 } }), ...(voice && { voice }) }
    puppet = run(puppet, addControl, { control })
  }
  return puppet
}

const withBoard = (): Puppet => applyEdits(face(), boardEdits(face(), 'b')).puppet
const mood = (puppet: Puppet, name: string): string => puppet.poses.find((p) => p.name === name)!.id

describe('the board', () => {
  test('gets at least ten moods that differ, and every sound that differs from rest, once', () => {
    const board = boardOf(withBoard())
    expect(board.moods.length).toBeGreaterThanOrEqual(10)
    expect(new Set(board.moods.map((m) => JSON.stringify(m.values))).size).toBe(board.moods.length)
    expect(board.sounds.map((s) => s.face)).toEqual(VISEMES.filter((v) => v !== 'rest' && v !== 'mbp'))
    expect(boardEdits(withBoard(), 'c')).toEqual([])
    for (const pose of withBoard().poses)
      for (const [address, value] of Object.entries(pose.values)) {
        const { min, max } = channelOf(face(), address)!
        expect(value).toBeGreaterThanOrEqual(min)
        expect(value).toBeLessThanOrEqual(max)
      }
  })

  test('proposes nothing where no control of a face is known', () => {
    const puppet = run(newPuppet('p', 'P', { width: 9, height: 9 }), addControl, { control: newControl('wag', 'Tail wag') })
    expect(proposedMoods(puppet, 'x')).toEqual([])
  })

  test('loses what its controls took along', () => {
    const puppet = run(withBoard(), deleteControl, { control: 'brows' })
    expect(moodChannels(puppet).has(at('brows'))).toBe(false)
  })
})

describe('a mood', () => {
  test('takes the place of another, and leaves all else', () => {
    const surprised = run(run(withBoard(), setPose, { values: { [at('tongue')]: 0.4 } }), takeMood, {
      mood: mood(withBoard(), 'Surprised'),
      share: 1,
    })
    expect(surprised.pose[at('open')]).toBeGreaterThan(0.4)
    const sad = run(surprised, takeMood, { mood: mood(withBoard(), 'Sad'), share: 1 })
    expect(sad.pose[at('open')]).toBeUndefined()
    expect(sad.pose[at('mood')]).toBeLessThan(-0.5)
    expect(sad.pose[at('tongue')]).toBe(0.4)
    const calm = run(sad, takeMood, { mood: null, share: 1 })
    expect(calm.pose).toEqual({ [at('tongue')]: 0.4 })
  })

  test('is taken up in part', () => {
    const half = run(withBoard(), takeMood, { mood: mood(withBoard(), 'Sad'), share: 0.5 })
    const whole = run(withBoard(), takeMood, { mood: mood(withBoard(), 'Sad'), share: 1 })
    expect(half.pose[at('mood')]).toBeCloseTo(whole.pose[at('mood')]! / 2, 9)
  })
})

describe('sounds over moods', () => {
  test('close the mouth for m, b and p in every mood, and never touch what is not the mouth', () => {
    for (const { id } of boardOf(withBoard()).moods) {
      const puppet = run(withBoard(), takeMood, { mood: id, share: 1 })
      const values = heldSound(puppet, 'mbp')
      expect(values[at('open')]).toBe(0)
      expect(Object.keys(values).sort()).toEqual(['open', 'teeth', 'tongue', 'wide'].map(at).sort())
    }
  })

  test('leave the mood its mouth in silence', () => {
    const puppet = run(withBoard(), takeMood, { mood: mood(withBoard(), 'Surprised'), share: 1 })
    expect(heldSound(puppet, 'rest')[at('open')]).toBeCloseTo(puppet.pose[at('open')]!, 9)
    expect(heldSound(puppet, 'rest')[at('wide')]).toBeCloseTo(puppet.pose[at('wide')]!, 9)
  })

  test('go from one to the next without a jump, within the range of every control', () => {
    const shown = fc.record({ viseme: fc.constantFrom(...VISEMES), before: fc.constantFrom(...VISEMES) })
    fc.assert(
      fc.property(shown, fc.constantFrom(...boardOf(withBoard()).moods.map((m) => m.id)), ({ viseme, before }, id) => {
        const puppet = run(withBoard(), takeMood, { mood: id, share: 1 })
        let last = soundValues(puppet, { viseme, before, way: 0 })
        expect(last).toEqual(heldSound(puppet, before))
        for (let way = 0.02; way <= 1; way += 0.02) {
          const now = soundValues(puppet, { viseme, before, way })
          for (const [address, value] of Object.entries(now)) {
            const { min, max } = channelOf(puppet, address)!
            expect(Math.abs(value - last[address]!)).toBeLessThan(0.08)
            expect(value).toBeGreaterThanOrEqual(min)
            expect(value).toBeLessThanOrEqual(max)
          }
          last = now
        }
      }),
      { numRuns: 60 },
    )
  })

  test('use the sounds that were kept, and fall back on the nearest of them', () => {
    const pose = { id: 'own', name: 'Own', values: { [at('open')]: 0.9, [at('brows')]: 0.3 }, face: 'aa' as const }
    const puppet = run(face(), keepPose, { pose })
    expect(heldSound(puppet, 'aa')).toMatchObject({ [at('open')]: 0.9, [at('brows')]: 0.3 })
    expect(heldSound(puppet, 'ee')[at('open')]).toBe(0.9)
    expect(heldSound(puppet, 'mbp')[at('open')]).toBe(0)
    expect(heldSound(run(puppet, forgetPose, { pose: 'own' }), 'aa')[at('open')]).toBe(1)
  })
})

describe('keys', () => {
  const cue = { id: 'k', key: 'b', channel: at('lids'), value: 1, how: 'hold' as const }

  test('show a value of a channel; a key has one meaning', () => {
    const puppet = run(run(face(), setCue, { cue }), setCue, { cue: { ...cue, id: 'other', channel: at('brows') } })
    expect(puppet.cues.map((c) => c.id)).toEqual(['other'])
    expect(run(puppet, deleteCue, { cue: 'other' }).cues).toEqual([])
    expect(run(puppet, deleteControl, { control: 'brows' }).cues).toEqual([])
  })

  test('answer to nothing are refused', () => {
    expect(() => run(face(), setCue, { cue: { ...cue, channel: 'control/tail/value' } })).toThrow('Nothing in this puppet')
    expect(() => run(face(), deleteCue, { cue: 'k' })).toThrow('There is no key')
  })
})
