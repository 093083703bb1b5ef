/** What of controls can be posed. */
import type { ChannelFamily } from '../kernel/channel'
import { counterpart } from '../kernel/sides'
import { axesOf, type Control } from './records'

/** Channels of controls: their values, two for a pad. */
export const controlChannels: ChannelFamily<Control> = {
  family: 'control',
  fields: {
    value: { kind: 'scalar', rest: 0, label: 'Value', unit: '' },
    x: { kind: 'scalar', rest: 0, label: 'Right', unit: '' },
    y: { kind: 'scalar', rest: 0, label: 'Up', unit: '' },
  },
  moves: true,
  records: ({ controls }) => controls,
  find: ({ controls }, id) => controls.find((c) => c.id === id),
  other: ({ controls }, id) => counterpart(controls, id),
  turns: (_, __, field) => field === 'x',
  has: (control, field) => axesOf(control).some((axis) => axis === field),
  own: ({ range, up }, field) => (field === 'y' ? (up ?? {}) : range),
}
