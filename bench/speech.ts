/** Typed speech: from a line of fifty words to timed shapes of a mouth, the dictionary at hand. */
import { dictionary } from 'cmu-pronouncing-dictionary'
import { trackOfLine } from '@marionette/core/motion/speech/track'
import { measure, type Figure } from './measure'

const LINE =
  'Good morning, this is the post office by the estuary, and I have letters, parcels and one very large crate for you. ' +
  'The heron at the counter asks whether you would sign here, while the crab keeps sorting stamps, boxes and blorps ' +
  'into five or six baskets before the tide comes in again.'

export function speechFigure(): Figure {
  const words = LINE.split(' ').length
  const lookup = (word: string): string | undefined => (Object.hasOwn(dictionary, word) ? dictionary[word] : undefined)
  return measure('speech-50-words', words, 'a line of words to timed visemes, the dictionary loaded', (round) => {
    trackOfLine(`${LINE} ${round}`, lookup)
  })
}
