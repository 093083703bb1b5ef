/** What the stand-in voice says to calibrate an acoustic model: lines in which all sounds occur next to many others. */
import type { Dictionary } from '../timing'
import { phonesOfLine } from '../track'
import { spoken, type Voice } from '../voice/speak'
import type { TrainingLine } from './acousticModel'

/** Lines from which the acoustic model learns. */
export const TRAINING_LINES: readonly string[] = [
  'Good morning, here is the post for the house by the old harbour.',
  'Marlo carries a heavy satchel full of papers, boxes and brown parcels.',
  'The estuary smells of mud and salt, and the sky is grey as a goose.',
  'She sells sharp scissors, thread, and thick blue wool by the yard.',
  'Every Thursday they measure the depth of the water beneath the bridge.',
  'How much would a large wheel of cheese cost if I paid you in May?',
  'Put the kettle on, please; Mother is coming up the path with five guests.',
  'The bell rings twice when a ship from the north enters the bay.',
  'Our crab can juggle eggs, but it drops about half of them.',
  'I thought the village church was further away than those three farms.',
  'Voices above the valley vanish over the river every evening.',
  'Joyful children pointed at the toys in the window and made a noise.',
  'A young man with yellow shoes usually walks his dog along the wall.',
  'Could you push that wooden book box under the table for a bit?',
  'Nothing is as good as warm bread with butter, honey, and a cup of tea.',
  'The thing is, nobody knows whether the judge will change his mind.',
  'Look out, the road is icy, and your left boot has a hole in it.',
  'We took a picture of the huge orange moon as it rose over the roof.',
  'Seven tired travellers asked for rooms, but there was just one bed.',
  'He hopes to win the boat race, though his vision is rather poor.',
  'Bob the baker was happy to lend me a pan, a pot, and a big spoon.',
  'Ask the shop for eight metres of rope, a map, and some beige cloth.',
  'The garage door was jammed, so the measure of pleasure was small.',
  'Few people view the marsh at dawn, when the fog lies low and cool.',
]

/** Voices of several sizes, so that what is learnt is the sound and not who says it. */
const VOICES: readonly Voice[] = [
  { pitch: 105, tract: 0.95, breath: 0.15, seed: 3 },
  { pitch: 130, tract: 1.03, breath: 0.3, seed: 5 },
  { pitch: 190, tract: 1.1, breath: 0.4, seed: 11 },
  { pitch: 215, tract: 1.18, breath: 0.4, seed: 13 },
]

/** Every line once, spoken by each voice in turn. */
export function trainingLinesOf(dictionary: Dictionary): TrainingLine[] {
  return TRAINING_LINES.map((line, k) => {
    const phones = phonesOfLine(line, dictionary, 0.9 + 0.15 * (k % 4))
    return { phones, samples: spoken(phones, VOICES[k % VOICES.length]) }
  })
}
