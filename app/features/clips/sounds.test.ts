import { describe, expect, test } from 'vitest'
import { addClip } from '@marionette/core/clips/commands'
import { newClip } from '@marionette/core/clips/new'
import type { SoundPiece } from '@marionette/core/clips/records'
import { addSound } from '@marionette/core/clips/soundCommands'
import { nth } from '@marionette/core/kernel/sure'
import { applyEdits, run } from '@marionette/core/puppet/edit'
import { armPuppet } from '@marionette/core/test/puppets'
import { lanesOf, mouthRowHeight, soundRowsHeight, SOUND_ROW } from './soundLanes'
import { draggedSound } from './sounds'

const piece = (id: string, at: number, length: number): SoundPiece => ({
  ...{ id, name: id, asset: 'c'.repeat(64), duration: 3, at, from: 0.5, length, volume: 1, muted: false },
})

describe('lanes of sounds', () => {
  test('sounds that follow each other share one, those that meet stand under each other', () => {
    expect(lanesOf([piece('a', 0, 1), piece('b', 1, 1), piece('c', 0.5, 1), piece('d', 1.6, 1)])).toEqual([0, 0, 1, 1])
  })

  test('one that is moved keeps its lane as long as none before it is in its way', () => {
    expect(lanesOf([piece('a', 2, 1), piece('b', 0, 1)])).toEqual([0, 0])
    expect(lanesOf([piece('a', 0.5, 1), piece('b', 0, 1)])).toEqual([0, 1])
  })

  test('take as much room as there are, and no more than two', () => {
    expect(soundRowsHeight({ sounds: [] })).toBe(0)
    expect(soundRowsHeight({ sounds: [piece('a', 0, 2), piece('b', 0, 2), piece('c', 0, 2)] })).toBe(2 * SOUND_ROW)
    expect(mouthRowHeight(newClip('c', 'C'))).toBe(0)
  })
})

describe('a sound that is dragged', () => {
  const voice = piece('voice', 1, 2)
  const puppet = run(run(armPuppet(), addClip, { clip: newClip('act', 'Act', { length: 4 }) }), addSound, { clip: 'act', sound: voice })
  const clip = nth(puppet.clips, 0)
  const after = (grip: 'all' | 'start' | 'end', by: number): SoundPiece =>
    nth(nth(applyEdits(puppet, [draggedSound(clip, voice, grip, by)]).puppet.clips, 0).sounds, 0)

  test('goes to whole frames, and not before the beginning', () => {
    expect(after('all', 0.51).at).toBeCloseTo(36 / 24, 9)
    expect(after('all', -9).at).toBe(0)
  })

  test('at its start leaves out more or less of the recording, and ends where it ended', () => {
    const later = after('start', 0.5)
    expect([later.at, later.from, later.length]).toEqual([1.5, 1, 1.5])
    // No more than there is of it.
    const first = after('start', -9)
    expect([first.at, first.from, first.length]).toEqual([0.5, 0, 2.5])
  })

  test('at its end is no longer than its recording', () => {
    expect(after('end', 9).length).toBe(2.5)
    expect(after('end', -9).length).toBeGreaterThan(0)
  })
})
