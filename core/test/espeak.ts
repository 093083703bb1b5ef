/** Sounds of lines spoken by espeak-ng, as ARPABET with times; scripts/speech/espeak.py writes what this reads. */
import type { Phone } from '../speech/timing'

export interface EspeakLine {
  readonly rate: number
  /** First sample and mnemonic of each sound. */
  readonly sounds: readonly (readonly [number, string])[]
}

const ARPABET: Readonly<Record<string, string>> = {
  ...named('P p', 'B b', 'T t t2', 'D d t#', 'K k', 'G g', 'CH tS', 'JH dZ', 'F f', 'V v', 'TH T', 'DH D', 'S s', 'Z z', 'SH S', 'ZH Z'),
  ...named('M m', 'N n n-', 'NG N', 'L l @L l#', 'R r r-', 'W w w#', 'Y j', 'HH h', 'ER 3 3:', 'IY i: i i@ i@3', 'IH I I# I2', 'EH E e@'),
  ...named(
    'AE a aa',
    'AA 0 A: A@',
    'AO O: O2 O@ o@ O',
    'UH U U@',
    'UW u: u',
    'AH V @ @2 @5 a#',
    'EY eI',
    'OW oU',
    'AY aI aI@ aI3',
    'AW aU aU@',
  ),
  ...named('OY OI', ' _ _: _! _| ?'),
}

function named(...rows: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    rows.flatMap((row) =>
      row
        .slice(row.indexOf(' ') + 1)
        .split(' ')
        .map((m) => [m, row.slice(0, row.indexOf(' '))]),
    ),
  )
}

/** Marks that are no sounds of their own. */
const MARKS = new Set([';', '|'])
/** Shortest gap that is a closed mouth, seconds. */
const GAP = 0.01

/**
 * Sounds with times. The program says when the burst of a stop is heard; the silence of the closed mouth before it, in which every
 * sample is nothing, is given to the stop unless a pause goes before. Throws on a mnemonic without an ARPABET sound.
 */
export function phonesOfEspeak({ rate, sounds }: EspeakLine, samples: Float32Array): Phone[] {
  const kept = sounds.filter(([, mnemonic]) => !MARKS.has(mnemonic))
  const names = kept.map(([, mnemonic]) => {
    const name = ARPABET[mnemonic]
    if (name === undefined) throw new Error(`No sound is known by ${mnemonic}.`)
    return name
  })
  const begins = kept.map(([at], k) => {
    if (names[k] === '' || (names[k - 1] ?? '') === '') return at
    let begin = at
    while (begin > 0 && Math.abs(samples[begin - 1]!) < 1e-4) begin--
    return at - begin > GAP * rate ? begin : at
  })
  const lead = { name: '', seconds: (begins[0] ?? samples.length) / rate, word: -1 }
  return [lead, ...names.map((name, k) => ({ name, seconds: ((begins[k + 1] ?? samples.length) - begins[k]!) / rate, word: -1 }))]
}
