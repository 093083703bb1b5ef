/** Selecting an area for cutting. */
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/geometry/booleans'
import type { Vec } from '@marionette/core/document/schema'
import { assetsOfParts } from '@marionette/core/document/tree'
import { loadAssets } from '../state/assets'
import { useCut } from '../state/cut'
import { openPuppet } from '../state/document'
import { colourAreaInWorker, stretchInWorker } from '../workers/client'
import { whileBusy } from './busy'

const areas = () => import('./areas')

export const dropArea = (): void => useCut.setState({ area: null, stretch: null, size: 0 })

async function keep(area: Area | null): Promise<void> {
  if (!area) return dropArea()
  const { areaOf } = await areas()
  useCut.setState({ area, stretch: null, size: areaOf(area) })
}

/** Takes a closed loop into the selection. */
export async function takeLoop(loop: readonly number[], mode: SelectionMode): Promise<void> {
  const { selectLoop } = await areas()
  await keep(selectLoop(useCut.getState().area, loop, mode))
}

async function takeArea(found: Area, mode: SelectionMode): Promise<void> {
  const { combineSelection } = await areas()
  await keep(combineSelection(useCut.getState().area, found, mode))
}

/** Grows the selection by so many px, or shrinks it. */
export async function growArea(by: number): Promise<void> {
  const { area } = useCut.getState()
  const { offsetSelection } = await areas()
  if (area) await keep(offsetSelection(area, by))
}

/** Takes the area of one colour about a spot of the canvas into the selection. */
export async function takeColour(source: string, spot: Vec, mode: SelectionMode): Promise<void> {
  const puppet = openPuppet()
  const { tolerance, gap } = useCut.getState()
  const found = await whileBusy(async (signal) => {
    const assets = await loadAssets(assetsOfParts(puppet, [source]))
    return colourAreaInWorker(puppet, source, spot, { tolerance, gap }, assets, signal)
  })
  if (found) await takeArea(found, mode)
}

/** Selects the stretch of an outline under a spot of the canvas. */
export async function takeStretch(source: string, spot: Vec, reach: number): Promise<void> {
  const found = await whileBusy((signal) => stretchInWorker(openPuppet(), source, spot, reach, signal))
  useCut.setState({ area: null, size: 0, stretch: found })
}
