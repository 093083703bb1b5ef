/** Defaults: a new control. */
import type { BoneId, ControlId } from '../kernel/ids'
import type { Control, ControlKind } from './records'

/** A control before anything was set: a slider from -1 to 1 on the shelf. */
export function newControl(id: ControlId, name: string, kind: ControlKind = 'slider', bone: BoneId | null = null): Control {
  const isPad = kind === 'pad'
  return {
    ...{ id, name, kind, colour: 1, group: '' },
    range: kind === 'toggle' ? { min: 0, max: 1, rest: 0 } : { min: -1, max: 1, rest: 0 },
    up: isPad ? { min: -1, max: 1, rest: 0 } : null,
    step: kind === 'toggle' ? 1 : 0,
    ...{ springs: false, symmetric: false, bone, ties: [], place: { on: 'shelf' } },
  }
}
