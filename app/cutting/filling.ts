/** Filling what is missing of the selected part, and taking its lines apart from its colour. */
import { freshId } from '@marionette/core/document/ids'
import { useCut } from '../state/cut'
import { openPuppet } from '../state/document'
import { withNote, work } from '../state/work'
import { fillInWorker, splitInWorker } from '../workers/client'
import { whileBusy } from './busy'
import { dropArea } from './selecting'
import { cutSource } from './sending'

/** Fills the selected area of the selected part from what surrounds it. */
export async function fillSelected(): Promise<void> {
  const { area } = useCut.getState()
  const part = cutSource()
  if (!area || part === null) return
  const label = `Fill ${openPuppet().parts[part]!.name}`
  const isDone = await whileBusy((signal, progress) =>
    work(label, [part], (puppet, assets) => fillInWorker(puppet, part, area, assets, progress, signal)),
  )
  if (isDone) dropArea()
}

/** Makes the lines of a part a part of their own, above its colour. */
export async function splitLinesOf(part: string, threshold: number): Promise<void> {
  const { name } = openPuppet().parts[part]!
  await withNote(`Splitting line and colour of ${name}…`, (signal) =>
    work(`Split line and colour of ${name}`, [part], (puppet, assets) =>
      splitInWorker(puppet, part, freshId('part'), threshold, assets, signal),
    ),
  )
}
