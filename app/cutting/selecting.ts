/** Selecting an area for cutting. */
import type { SelectionMode } from '@marionette/core/artwork/selection'
import type { Area } from '@marionette/core/geometry/booleans'
import { useCut } from '../state/cut'

const areas = () => import('./areas')

export const dropArea = (): void => useCut.setState({ area: null, size: 0 })

async function keep(area: Area | null): Promise<void> {
  if (!area) return dropArea()
  const { areaOf } = await areas()
  useCut.setState({ area, size: areaOf(area) })
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
