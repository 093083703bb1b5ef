/** Flipbooks with timers in the evaluation: blinks and the like, which nobody has to begin. */
import { slotOfAddress, type SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { TimedFlipbook } from './flipbook'

/** Flipbooks of a rig that run by a timer. */
export interface FlipbooksRig {
  readonly flipbooks: readonly { readonly slot: number; readonly pages: TimedFlipbook }[]
}

interface Posed {
  readonly values: Float64Array
}

/** One interrupts nothing that somebody chose: only where its channel is at rest does it show. */
export const flipbookStage: Stage<SlotsRig, FlipbooksRig, Posed, object> = {
  name: 'flipbooks',
  after: ['slots'],
  reads: ['flipbooks'],
  compile: ({ flipbooks }, { slots }) => ({
    flipbooks: flipbooks.flatMap((source) => {
      const slot = slotOfAddress(slots, source.channel)
      return source.timer && slot >= 0 ? [{ slot, pages: new TimedFlipbook(source, source.timer) }] : []
    }),
  }),
  run({ flipbooks, restPose }, { values }, _, { time }) {
    if (time === null) return
    for (let k = 0; k < flipbooks.length; k++) {
      const { slot, pages } = flipbooks[k]!
      const page = values[slot] === restPose[slot] ? pages.pageAt(time) : -1
      if (page >= 0) values[slot] = page
    }
  },
}
