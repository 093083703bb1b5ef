/** Filling what is missing of the selected part, and taking its lines apart from its colour. */
import { freshId } from '@marionette/core/document/ids'
import { useCut } from '../state/cut'
import { openPuppet } from '../state/document'
import { work } from '../state/work'
import { fillInWorker, splitInWorker } from '../workers/client'
import { cutSource } from './sending'

/** Fills the selected area of the selected part from what surrounds it. */
export async function fillSelected(): Promise<void> {
  const { area, busy } = useCut.getState()
  const part = cutSource()
  if (!area || part === null || busy) return
  useCut.setState({ busy: true })
  const isDone = await work(`Fill ${openPuppet().parts[part]!.name}`, (puppet, assets) =>
    fillInWorker(puppet, part, area, assets, () => undefined),
  )
  useCut.setState({ busy: false, ...(isDone && { area: null }) })
}

/** Makes the lines of a part a part of their own, above its colour. */
export const splitLinesOf = (part: string, threshold: number): Promise<boolean> =>
  work(`Split line and colour of ${openPuppet().parts[part]!.name}`, (puppet, assets) =>
    splitInWorker(puppet, part, freshId('part'), threshold, assets),
  )
