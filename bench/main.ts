/** Prints one JSON line for each figure; with names, only those. Benchmarks are no tests and fail nothing. */
import { fitFigure, importOpenRasterFigure, meshFigure } from './artwork'
import { curveDrawFigure } from './clips'
import { cutFigure, fillFigure, rangeTestFigure, sweepFigure } from './cutting'
import { FEW_ROUNDS, type Figure } from './measure'
import type { Puppet } from '@marionette/core/puppet/schema'
import { arapFigure, neckFigure, reachFigure, weighFigure, wingFigure } from './deform'
import { importFigure, saveFigure, undoDragFigure } from './document'
import { allocateFigure, compileFigure, drawFigure, evaluateClipFigure, evaluateFigure, heavy, marlo, stress, typical } from './puppet'
import { ACTIVE, responsesFigure } from './responses'
import { skinFigure, skinVolumeFigure } from './skin'
import { recordingFigure, speechFigure } from './speech'
import { seekFigures, springsFigure } from './springs'
import { strideFigure } from './strides'
import { touchFigure } from './touch'
import { weightsFigure } from './weights'

/** Sizes that show how a figure grows: each is about ten times the one before. */
const growing = (
  name: string,
  figure: (name: string, puppet: Puppet, size: 'typical' | 'heavy' | 'heavy-x10') => Figure | Promise<Figure>,
) => ({
  [`${name}-typical`]: () => figure(`${name}-typical`, typical(), 'typical'),
  [`${name}-heavy`]: () => figure(`${name}-heavy`, heavy(), 'heavy'),
  [`${name}-heavy-x10`]: () => figure(`${name}-heavy-x10`, stress(), 'heavy-x10'),
})

const FIGURES: Readonly<Record<string, () => Figure | readonly Figure[] | Promise<Figure>>> = {
  'skin-100k': skinFigure,
  'skin-volume-100k': skinVolumeFigure,
  'evaluate-marlo': () => evaluateFigure('evaluate-marlo', marlo()),
  ...growing('evaluate', (name, puppet, size) => evaluateFigure(name, puppet, size === 'heavy-x10' ? 2 : 20)),
  'evaluate-clip': () => evaluateClipFigure('evaluate-clip', typical()),
  'scrub-heavy': () => evaluateClipFigure('scrub-heavy', heavy(), 10),
  'curve-draw-2000': curveDrawFigure,
  'springs-200': springsFigure,
  'stride-8': strideFigure,
  'seek-60s': seekFigures,
  'allocate-frame': allocateFigure,
  'speech-50-words': speechFigure,
  'speech-wav-60s': recordingFigure,
  ...growing('compile', (name, puppet, size) => compileFigure(name, puppet, size === 'heavy-x10' ? FEW_ROUNDS : undefined)),
  'draw-marlo': () => drawFigure('draw-marlo', marlo()),
  'draw-typical': () => drawFigure('draw-typical', typical()),
  'weights-5000x20': weightsFigure,
  'import-svg-5000': importFigure,
  'import-ora-60x2048': importOpenRasterFigure,
  'mesh-1024': meshFigure,
  'fit-marlo': fitFigure,
  'cut-500': cutFigure,
  'fill-cap-256': fillFigure,
  'sweep-37': sweepFigure,
  'range-test-marlo': rangeTestFigure,
  'responses-120': () => responsesFigure('responses-120', 20),
  'responses-active': () => ACTIVE.map((active) => responsesFigure('responses-active', active)),
  'touch-move': touchFigure,
  'arap-2000': arapFigure,
  'weigh-dab-20000': weighFigure,
  'reach-10': reachFigure,
  'evaluate-quill-neck': neckFigure,
  'evaluate-quill-wing': wingFigure,
  ...growing('save', (name, puppet, size) => saveFigure(name, puppet, size === 'typical' ? undefined : FEW_ROUNDS)),
  ...growing('undo-drag', (name, puppet, size) => undoDragFigure(name, puppet, size === 'heavy-x10' ? FEW_ROUNDS : undefined)),
}

const asked = process.argv.slice(2)
const unknown = asked.find((name) => !Object.hasOwn(FIGURES, name))
if (unknown) {
  console.error(`There is no figure "${unknown}"; there is ${Object.keys(FIGURES).join(', ')}.`)
  process.exit(2)
}
for (const [name, figure] of Object.entries(FIGURES))
  if (asked.length === 0 || asked.includes(name)) for (const one of [await figure()].flat()) console.log(JSON.stringify(one))
