/** Prints one JSON line for each figure; with names, only those. Benchmarks are no tests and fail nothing. */
import type { Figure } from './measure'
import { allocateFigure, compileFigure, drawFigure, evaluateFigure, marlo, typical } from './puppet'
import { skinFigure } from './skin'
import { weightsFigure } from './weights'

const FIGURES: Readonly<Record<string, () => Figure | Promise<Figure>>> = {
  'skin-100k': skinFigure,
  'evaluate-marlo': () => evaluateFigure('evaluate-marlo', marlo()),
  'evaluate-typical': () => evaluateFigure('evaluate-typical', typical()),
  'allocate-frame': allocateFigure,
  'compile-typical': compileFigure,
  'draw-marlo': () => drawFigure('draw-marlo', marlo()),
  'draw-typical': () => drawFigure('draw-typical', typical()),
  'weights-5000x20': weightsFigure,
}

const asked = process.argv.slice(2)
const unknown = asked.find((name) => !Object.hasOwn(FIGURES, name))
if (unknown) {
  console.error(`There is no figure "${unknown}"; there is ${Object.keys(FIGURES).join(', ')}.`)
  process.exit(2)
}
for (const [name, figure] of Object.entries(FIGURES))
  if (asked.length === 0 || asked.includes(name)) console.log(JSON.stringify(await figure()))
