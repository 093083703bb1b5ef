/**
 * Measures how well recordings are heard, on lines spoken by espeak-ng in several voices: `npm run measure:speech`. Needs python3 and
 * Debian's espeak-ng. Prints tables for docs/speech.md; with a folder as argument keeps what was spoken there.
 */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { dictionary } from 'cmu-pronouncing-dictionary'
import { CLASSES, confusionOf, together, type Confusion } from '@marionette/core/speech/recognition/confusion'
import { trainModel } from '@marionette/core/speech/recognition/acousticModel'
import { recognise } from '@marionette/core/speech/recognition/recognise'
import { trainingLinesOf } from '@marionette/core/speech/recognition/trainingLines'
import { phonesOfEspeak, type EspeakLine } from '@marionette/core/test/espeak'
import { readWav } from '@marionette/formats/sound/wav'

/** Voice, words a minute, pitch. */
const VOICES = [
  ['en-us', '150', '50'],
  ['en-us', '190', '35'],
  ['en-us+m7', '160', '50'],
  ['en-us+f5', '150', '60'],
  ['en-gb-x-rp', '140', '45'],
  ['en-us+f4', '170', '50'],
] as const

const here = import.meta.dirname
const folder = process.argv[2] ?? mkdtempSync(join(tmpdir(), 'speech-'))
const model = trainModel(trainingLinesOf((word) => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)))

const measured = VOICES.map(([voice, rate, pitch]) => {
  const out = join(folder, `${voice}-${rate}`)
  execFileSync('python3', [join(here, 'espeak.py'), join(here, 'lines.txt'), out, voice, rate, pitch], { stdio: 'inherit' })
  const sound = readWav(readFileSync(`${out}.wav`), `${voice}.wav`)
  const truth = phonesOfEspeak(JSON.parse(readFileSync(`${out}.json`, 'utf8')) as EspeakLine, sound.samples)
  return {
    voice,
    rate,
    seconds: sound.samples.length / sound.rate,
    confusion: confusionOf(truth, recognise(sound.samples, sound.rate, model)),
  }
})

const percent = (share: number): string => `${(100 * share).toFixed(0)}%`

console.log('| voice | words a minute | seconds | frames right | silence right |\n| --- | --- | --- | --- | --- |')
for (const { voice, rate, seconds, confusion } of measured)
  console.log(`| ${voice} | ${rate} | ${seconds.toFixed(0)} | ${percent(confusion.right)} | ${percent(confusion.silence)} |`)
const all = together(measured.map((m) => m.confusion))
console.log(`| all | | | ${percent(all.right)} | ${percent(all.silence)} |\n`)
printTable(all)

function printTable({ counts }: Confusion): void {
  const n = CLASSES.length
  console.log(`| spoken, heard as | ${CLASSES.join(' | ')} | frames |\n| ---${' | ---'.repeat(n + 1)} |`)
  CLASSES.forEach((viseme, row) => {
    const frames = counts.subarray(row * n, (row + 1) * n)
    const sum = frames.reduce((a, b) => a + b, 0)
    console.log(`| ${viseme} | ${[...frames].map((count) => percent(count / sum)).join(' | ')} | ${sum} |`)
  })
}
