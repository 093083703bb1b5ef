/** Poses of everything together, to see how it goes together. */
import { controlChannel, isForPeople, rangeAlong, stepped, type Control, type Range } from '../controls/records'
import type { Puppet } from '../puppet/schema'

/** The range of a control along an axis; of a lever the limits of its bone, or half a turn either way. */
export function controlRange(puppet: Puppet, control: Control, axis: 'value' | 'x' | 'y'): Range {
  if (control.bone === null) return rangeAlong(control, axis)
  const { min, max } = puppet.bones[control.bone]!.limits
  return { min: min ?? -180, max: max ?? 180, rest: 0 }
}

/** The axes along which a control is set. */
export const axesFor = ({ kind }: Pick<Control, 'kind'>): readonly ('value' | 'x' | 'y')[] => (kind === 'pad' ? ['x', 'y'] : ['value'])

/** Values of some controls at random within their ranges, by channels. */
export const randomControls = (puppet: Puppet, controls: readonly Control[], random: () => number): Record<string, number> =>
  Object.fromEntries(
    controls.flatMap((c) =>
      axesFor(c).map((axis) => {
        const range = controlRange(puppet, c, axis)
        return [controlChannel(c, axis), stepped(c, range, range.min + random() * (range.max - range.min))] as const
      }),
    ),
  )

/** Values of all controls, and of all bones that have both limits, at random within them. */
export function randomPose(puppet: Puppet, random: () => number): Record<string, number> {
  const bones = Object.values(puppet.bones).flatMap(({ id, limits: { min, max } }) =>
    min === null || max === null ? [] : [[`bone/${id}/angle`, min + random() * (max - min)] as const],
  )
  return { ...Object.fromEntries(bones), ...randomControls(puppet, puppet.controls.filter(isForPeople), random) }
}
