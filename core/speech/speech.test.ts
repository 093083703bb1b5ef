import { dictionary } from 'cmu-pronouncing-dictionary'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { VISEME_SETS, visemeIn, VISEMES } from './visemes'
import { soundsByRule } from './letters'
import { MOUTH_FORMS, MOUTH_MORPH, shownAt, SLOWEST_FRAMES, trackOf, trackOfLine, visemeOfPhone, type SpeechTrack } from './track'
import { smoothstep } from '../maths/solve/smoothstep'
import { numberWords, tokensOf } from './words'

const words: Readonly<Record<string, string>> = dictionary
const lookup = (word: string): string | undefined => (Object.hasOwn(words, word) ? words[word] : undefined)

/** How far a mouth that is moved by a control is open. */
function openAt(track: SpeechTrack, time: number): number {
  const { viseme, before, way } = shownAt(track, time, MOUTH_MORPH)
  const [from, to] = [MOUTH_FORMS[before ?? viseme].open, MOUTH_FORMS[viseme].open]
  return from + smoothstep(way) * (to - from)
}

describe('lines', () => {
  test('are split into words and pauses; numbers are said', () => {
    expect(tokensOf('Don’t go, at 42!').map((t) => (t.kind === 'word' ? t.text : t.seconds))).toEqual([
      "don't",
      'go',
      0.18,
      'at',
      'forty',
      'two',
      0.4,
    ])
    expect(tokensOf('Crème…  (brûlée)').map((t) => (t.kind === 'word' ? t.text : '…'))).toEqual(['creme', '…', 'brulee'])
    expect(numberWords('12345').join(' ')).toBe('twelve thousand three hundred forty five')
    expect(numberWords('007')).toEqual(['zero', 'zero', 'seven'])
  })

  test.each([
    ['post', 'P AA S T'],
    ['night', 'N AY T'],
    ['make', 'M EY K'],
    ['ship', 'SH IH P'],
    ['quack', 'K W AE K'],
    ['phone', 'F OW N'],
    ['knee', 'N IY'],
    ['nation', 'N EY SH AH N'],
    ['wished', 'W IH SH T'],
    ['boxes', 'B AA K S IH Z'],
    ['zorple', 'Z AO R P L'],
  ])('%s is said by rule', (word, phones) => {
    expect(soundsByRule(word).join(' ')).toBe(phones)
  })

  test('rules find the shapes of common words mostly as the dictionary has them', () => {
    const sample = Object.keys(words)
      .filter((w) => /^[a-z]{3,8}$/.test(w))
      .filter((_, k) => k % 97 === 0)
    let [same, all] = [0, 0]
    for (const word of sample) {
      const own = soundsByRule(word).map(visemeOfPhone)
      const true_ = words[word]!.split(' ').map((p) => visemeOfPhone(p.replace(/\d/, '')))
      same += common(own, true_)
      all += Math.max(own.length, true_.length)
    }
    expect(sample.length).toBeGreaterThan(500)
    expect(same / all).toBeGreaterThan(0.72)
  })
})

/** Length of the longest common subsequence. */
function common(a: readonly string[], b: readonly string[]): number {
  let row = new Array<number>(b.length + 1).fill(0)
  for (const x of a) {
    const next = [0]
    for (let j = 0; j < b.length; j++) next.push(x === b[j] ? row[j]! + 1 : Math.max(row[j + 1]!, next[j]!))
    row = next
  }
  return row.at(-1)!
}

const someWords = fc.array(fc.constantFrom('map', 'bumble', 'pepper', 'mum', 'stamp', 'five', 'chew', 'boot', 'whip', 'postbox', 'qqmb'), {
  minLength: 1,
  maxLength: 12,
})

describe('speech', () => {
  test('m, b and p close the mouth on at least one frame, at 12 and at 60 frames a second, wherever the clock begins', () => {
    fc.assert(
      fc.property(
        someWords,
        fc.double({ min: 0.7, max: 2.2, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (list, rate, offset) => {
          const track = trackOfLine(list.join(' '), lookup, rate)
          track.cues.forEach((cue, k) => {
            if (cue.viseme !== 'mbp') return
            const until = track.cues[k + 1]?.at ?? track.duration
            for (const frames of [SLOWEST_FRAMES, 60]) {
              let closed = 0
              for (let n = Math.floor(cue.at * frames); n <= until * frames + 1; n++) {
                const time = (n + offset) / frames
                if (time < cue.at || time >= until) continue
                const { viseme, way } = shownAt(track, time, 0.2)
                if (viseme === 'mbp' && way === 1 && openAt(track, time) === 0) closed++
              }
              expect(closed).toBeGreaterThan(0)
            }
          })
        },
      ),
      { numRuns: 60 },
    )
  })

  test('every m, b and p of a line is there, though neighbours may be one', () => {
    const track = trackOfLine('Pepper bumps my map', lookup, 2.5)
    const spoken = ['pepper', 'bumps', 'my', 'map'].flatMap((w) => lookup(w)!.split(' ')).map((p) => visemeOfPhone(p.replace(/\d/, '')))
    const closings = spoken.filter((v, k) => v === 'mbp' && spoken[k - 1] !== 'mbp').length
    expect(track.cues.filter((c) => c.viseme === 'mbp').length).toBe(closings)
  })

  test('times rise, nothing is too short to be seen, the ways from shape to shape have no jumps', () => {
    fc.assert(
      fc.property(someWords, (list) => {
        const track = trackOfLine(list.join(' '), lookup)
        track.cues.forEach((cue, k) => {
          if (k > 0) expect(cue.at).toBeGreaterThan(track.cues[k - 1]!.at)
          if (k > 0) expect(cue.viseme).not.toBe(track.cues[k - 1]!.viseme)
        })
        let before = openAt(track, 0)
        for (let t = 0; t < track.duration; t += 1 / 240) {
          const open = openAt(track, t)
          expect(Math.abs(open - before)).toBeLessThan(0.36)
          before = open
        }
      }),
      { numRuns: 30 },
    )
  })

  test('shapes are reached as their sound begins; before and after there is rest', () => {
    const track = trackOf([
      { name: '', seconds: 0.2, word: -1 },
      { name: 'AA', seconds: 0.2, word: 0 },
      { name: '', seconds: 0.2, word: -1 },
    ])
    expect(track.cues.map((c) => [c.viseme, Number(c.at.toFixed(3))])).toEqual([
      ['rest', 0],
      ['aa', 0.2],
      ['rest', 0.4],
    ])
    expect(shownAt(track, 0.2, 0.1)).toEqual({ viseme: 'aa', before: null, way: 1 })
    expect(shownAt(track, 0.15, 0.1)).toMatchObject({ viseme: 'aa', before: 'rest', way: expect.closeTo(0.5, 6) as number })
    expect(shownAt(track, 9, 0.1).viseme).toBe('rest')
  })

  test('sets of six, nine and twelve show every sound', () => {
    for (const size of [6, 9, 12] as const) {
      const set = new Set(VISEME_SETS[size])
      expect(set.size).toBe(size)
      for (const viseme of VISEMES) expect(set.has(visemeIn((v) => set.has(v), viseme)!)).toBe(true)
    }
    expect(visemeIn((v) => v === 'rest' || v === 'aa', 'mbp')).toBe('rest')
    expect(visemeIn(() => false, 'aa')).toBeNull()
  })

  test('without words there is silence', () => {
    expect(trackOfLine('', lookup).cues).toEqual([{ viseme: 'rest', at: 0, word: -1 }])
    expect(shownAt({ cues: [], duration: 0 }, 0, 0.1).viseme).toBe('rest')
  })
})
