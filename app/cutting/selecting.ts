/** Selecting an area for cutting. */
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/geometry/booleans'
import type { Puppet, Vec } from '@marionette/core/document/schema'
import { useCut } from '../state/cut'
import { stretchInWorker } from '../workers/client'

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

/** Takes an area into the selection. */
export async function takeArea(found: Area, mode: SelectionMode): Promise<void> {
  const { combineSelection } = await areas()
  await keep(combineSelection(useCut.getState().area, found, mode))
}

/** Grows the selection by so many px, or shrinks it. */
export async function growArea(by: number): Promise<void> {
  const { area } = useCut.getState()
  const { offsetSelection } = await areas()
  if (area) await keep(offsetSelection(area, by))
}

/** Selects the stretch of an outline under a spot of the canvas. */
export async function takeStretch(puppet: Puppet, source: string, spot: Vec, reach: number): Promise<void> {
  const found = await stretchInWorker(puppet, source, spot, reach)
  useCut.setState({ area: null, size: 0, stretch: found })
}
