/** Selecting an area for cutting. */
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import type { Vec } from '@marionette/core/puppet/schema'
import { assetsOfParts } from '@marionette/core/parts/tree'
import { loadAssets } from '../../editor/assets'
import { useCut } from './selection'
import { openPuppet } from '../../editor/document'
import { whileBusy } from './busy'
import { lookBeside } from './foreign'
import type { Editor } from '../../editor/editor'

const areas = () => import('./areas')

export const dropArea = (editor: Editor): void => useCut.of(editor).setState({ area: null, stretch: null, foreign: null, size: 0 })

async function keep(editor: Editor, area: Area | null): Promise<void> {
  if (!area) return dropArea(editor)
  const { areaOf } = await areas()
  useCut.of(editor).setState({ area, stretch: null, foreign: null, size: areaOf(area) })
  void lookBeside(editor, area)
}

/** Leaves out of the selection what belongs to something beside what is cut. */
export async function leaveOutForeign(editor: Editor): Promise<void> {
  const { foreign } = useCut.of(editor).getState()
  if (foreign) await takeArea(editor, foreign, 'subtract')
}

/** Takes a closed loop into the selection. */
export async function takeLoop(editor: Editor, loop: readonly number[], mode: SelectionMode): Promise<void> {
  const { selectLoop } = await areas()
  await keep(editor, selectLoop(useCut.of(editor).getState().area, loop, mode))
}

async function takeArea(editor: Editor, found: Area, mode: SelectionMode): Promise<void> {
  const { combineSelection } = await areas()
  await keep(editor, combineSelection(useCut.of(editor).getState().area, found, mode))
}

/** Grows the selection by so many px, or shrinks it. */
export async function growArea(editor: Editor, by: number): Promise<void> {
  const { area } = useCut.of(editor).getState()
  const { offsetSelection } = await areas()
  if (area) await keep(editor, offsetSelection(area, by))
}

/** Takes the area of one colour about a spot of the canvas into the selection. */
export async function takeColour(editor: Editor, source: string, spot: Vec, mode: SelectionMode): Promise<void> {
  const puppet = openPuppet(editor)
  const { tolerance, gap } = useCut.of(editor).getState()
  const found = await whileBusy(editor, async (signal) => {
    const assets = await loadAssets(editor, assetsOfParts(puppet, [source]))
    return editor.jobs.colourArea(puppet, source, spot, { tolerance, gap }, assets, signal)
  })
  if (found) await takeArea(editor, found, mode)
}

/** Selects the stretch of an outline under a spot of the canvas. */
export async function takeStretch(editor: Editor, source: string, spot: Vec, reach: number): Promise<void> {
  const found = await whileBusy(editor, (signal) => editor.jobs.stretch(openPuppet(editor), source, spot, reach, signal))
  useCut.of(editor).setState({ area: null, size: 0, stretch: found })
}
