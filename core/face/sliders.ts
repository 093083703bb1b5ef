/** Sliders with what answers to them, as builders make them. */
import type { ControlId, PartId } from '../kernel/ids'
import { controlChannel, type Control, type Voice } from '../controls/records'
import type { Change, Response } from '../responses/records'
import { addControl } from '../controls/commands'
import { addResponse } from '../responses/commands'
import { edit, type Edit } from '../kernel/command'
import { newControl } from '../controls/new'
import { newResponse } from '../responses/new'
import { partChannel } from '../parts/channels'

/** A slider with the response that answers to it. */
export interface AnsweredSlider {
  readonly id: ControlId
  readonly name: string
  readonly group: string
  readonly colour: number
  /** Where it rests between 0 and 1; null for one that goes from -1 to 1 and rests at 0. */
  readonly rest: number | null
  readonly voice?: Voice | null
  /** Name of the response. */
  readonly answer: string
  readonly between?: Response['between']
  /** What answers at each of its values; values at which nothing does are left out. */
  readonly stops: readonly (readonly [at: number, changes: readonly Change[]])[]
}

/** The edits that make one. */
export function sliderEdits({ id, name, group, colour, rest, voice, answer, between, stops }: AnsweredSlider): Edit[] {
  const control: Control = {
    ...newControl(id, name),
    ...{ group, colour, ...(rest !== null && { range: { min: 0, max: 1, rest } }), ...(voice && { voice }) },
  }
  const recorded = stops.filter(([, changes]) => changes.length > 0)
  const response: Response = {
    ...newResponse(`${id}-answer`, answer, 'ruler', [{ kind: 'channel', channel: controlChannel(control) }]),
    ...(between && { between }),
    stops: recorded.map(([at, changes], k) => ({ id: `s${k + 1}`, at: [at], changes: [...changes] })),
  }
  return [edit(addControl, { control }), edit(addResponse, { response })]
}

/** A part moved by so much; nothing where that is nothing. */
export const shifted = (part: PartId, field: 'x' | 'y', by: number): Change[] =>
  Math.abs(by) < 1e-6 ? [] : [{ kind: 'channel', muted: false, scale: 1, channel: partChannel(part, field), by }]
