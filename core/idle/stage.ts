/** Idle life in the evaluation: it adds to the pose what happens by itself at a time. Nothing lives where nothing is simulated. */
import { boneSlot } from '../bones/channels'
import type { BonesRig } from '../bones/stage'
import { slotOf, slotOfAddress, type SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { blinkAt, glanceAt, breathAt, shiftAt } from './life'
import type { Idle } from './records'

/** Share of its length by which a bone is drawn out at the top of a breath, and by which shoulders are lifted, of the same. */
const GROWS = 0.018
const LIFTS = 0.012
/** The belly follows the chest by this share of a breath, and hips sink by this share of a shift. */
const LATE = 0.12
const SINKS = 0.12

interface IdleTable {
  readonly source: Idle
  readonly amount: number
  readonly chest: number
  readonly belly: number
  readonly shoulders: Int32Array
  /** How far shoulders are lifted, px. */
  readonly lift: number
  readonly blink: number
  readonly glanceX: number
  readonly glanceY: number
}

export interface IdleRig {
  readonly idles: readonly IdleTable[]
}

export interface IdleFrame {
  /** How far hips are shifted over standing legs, px to the right and down. */
  readonly idleShift: Float64Array
}

type Uses = { readonly values: Float64Array }

export const idleStage: Stage<BonesRig & SlotsRig, IdleRig, Uses, IdleFrame> = {
  name: 'idle',
  after: ['slots', 'bones'],
  reads: ['idles'],
  compile: (puppet, { bones, slots }) => ({
    idles: puppet.idles.map((source, k): IdleTable => {
      const at = (id: string | null): number => (id === null ? -1 : (bones.index.get(id) ?? -1))
      const channel = (address: string | null): number => (address === null ? -1 : slotOfAddress(slots, address))
      const chest = at(source.breath.chest)
      const length =
        chest < 0
          ? 100
          : Math.hypot(bones.end[2 * chest]! - bones.start[2 * chest]!, bones.end[2 * chest + 1]! - bones.start[2 * chest + 1]!)
      return {
        source,
        amount: slotOf(slots, 'idle', k),
        chest,
        belly: at(source.breath.belly),
        shoulders: Int32Array.from(source.breath.shoulders.map(at).filter((b) => b >= 0)),
        lift: LIFTS * length,
        blink: channel(source.blink.channel),
        glanceX: channel(source.glance.x),
        glanceY: channel(source.glance.y),
      }
    }),
  }),
  buffers: () => ({ idleShift: new Float64Array(2) }),
  run({ idles }, frame, _, { simulation }) {
    frame.idleShift.fill(0)
    const life = simulation?.life
    if (!life || life.share === 0) return
    for (let k = 0; k < idles.length; k++) live(idles[k]!, frame, life.time, life.share)
  },
}

function live(table: IdleTable, { values, idleShift }: Uses & IdleFrame, time: number, share: number): void {
  const { source } = table
  const amount = share * Math.min(1, Math.max(0, values[table.amount]!))
  if (amount === 0) return
  const deep = amount * source.breath.depth
  const breath = deep * breathAt(source.breath, time)
  if (table.chest >= 0) values[boneSlot(table.chest) + 3]! *= 1 + GROWS * breath
  const belly = deep * breathAt(source.breath, time - (LATE * 60) / source.breath.rate)
  if (table.belly >= 0) values[boneSlot(table.belly) + 3]! *= 1 + 0.6 * GROWS * belly
  for (let k = 0; k < table.shoulders.length; k++) values[boneSlot(table.shoulders[k]!) + 2]! -= table.lift * breath
  const shift = amount * source.shift.far * shiftAt(source, time)
  idleShift[0]! += shift
  idleShift[1]! += SINKS * Math.abs(shift)
  if (table.blink >= 0) values[table.blink]! += amount * blinkAt(source, time) * (source.blink.shut - values[table.blink]!)
  if (table.glanceX >= 0) values[table.glanceX]! += amount * source.glance.far * glanceAt(source, time, 0)
  if (table.glanceY >= 0) values[table.glanceY]! += amount * 0.5 * source.glance.far * glanceAt(source, time, 1)
}
