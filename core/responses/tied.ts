/** Controls at work: channels that are tied to them go along. */
import { controlChannel, rangeAlong, type Control, type Tie } from '../controls/records'
import { rise } from '../maths/solve/ruler'
import { slotOfChannel, type Slots } from '../kernel/slots'
import type { RigInput } from './inputs'
import type { CompiledResponse } from './compiled'
import type { Responding as Frame } from './frame'

interface RigTie {
  readonly tie: Tie
  readonly input: RigInput
  readonly slot: number
  readonly isFactor: boolean
  /** What it is at the control's rest. */
  readonly rest: number
}

/** Replaces the value of a control by what a tie brings its channel to then. */
function tieValue({ from, to, curve }: Tie, place: Float64Array | number[], at: number): void {
  place[at] = Math.min(1, Math.max(0, (place[at]! - from[0]) / (from[1] - from[0])))
  if (curve) rise(curve, place, at)
  place[at] = to[0] + (to[1] - to[0]) * place[at]!
}

/** Where a tie brings its channel when the control has a value. */
export function tiedValue(tie: Tie, value: number): number {
  const place = [value]
  tieValue(tie, place, 0)
  return place[0]!
}

/** A control with the channels that are tied to it. */
export class Tied implements CompiledResponse {
  readonly id: string
  private readonly ties: readonly RigTie[]

  constructor(
    slots: Slots,
    control: Control,
    inputOf: (address: string) => RigInput | null,
    readonly isLate: boolean,
    readonly movesBones: boolean,
  ) {
    this.id = control.id
    this.ties = control.ties.flatMap((tie): RigTie[] => {
      const input = inputOf(controlChannel(control, tie.axis))
      const channel = slots.channelOf(tie.channel)
      const slot = channel ? slotOfChannel(slots, channel) : -1
      if (!input || slot < 0) return []
      const rest = control.bone === null ? rangeAlong(control, tie.axis).rest : input.rest
      return [{ tie, input, slot, isFactor: channel!.kind === 'scale', rest: tiedValue(tie, rest) }]
    })
  }

  act(frame: Frame): void {
    const { values: answers } = frame
    for (let k = 0; k < this.ties.length; k++) {
      const { tie, input, slot, isFactor, rest } = this.ties[k]!
      input.read(frame, 0)
      tieValue(tie, frame.inputValues, 0)
      const by = frame.inputValues[0]! - rest
      if (isFactor) answers[slot]! *= 1 + by
      else answers[slot]! += by
    }
  }
}
