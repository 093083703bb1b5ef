/** The places of a puppet's channels in a pose array, from the families of all capabilities. */
import type { SlotFamily, Slots, SlotsRig } from '../kernel/slots'
import type { Stage } from '../kernel/stage'
import { channelOf, FAMILIES } from './channels'
import type { Puppet } from './schema'

/** Slots of all channels that move something. What is hidden or elsewhere in another view has its place as well. */
export function makeSlots(puppet: Puppet): Slots {
  const rest: number[] = []
  const families = new Map<string, SlotFamily>()
  for (const [name, { first, fields }] of FAMILIES) {
    if (!first.moves) continue
    const records = first.records(puppet)
    families.set(name, {
      base: rest.length,
      stride: fields.size,
      fields: [...fields.keys()],
      index: new Map(records.map((record, at) => [record.id, at])),
    })
    for (const record of records)
      for (const [field, { spec, from }] of fields) rest.push(from.own?.(record, field, puppet).rest ?? spec.rest)
  }
  return { families, rest: Float64Array.from(rest), channelOf: (address) => channelOf(puppet, address) }
}

/** Places depend on what is there alone, and rest on what is set of it. */
export const slotsStage: Stage<object, SlotsRig, object, object> = {
  name: 'slots',
  reads: ['parts', 'root', 'bones', 'skeleton', 'targets', 'constraints', 'controls'],
  // Numbers of springs and strides that are tuned change no place: all that is made from places would be made anew with each of them.
  keys: [
    { reads: ['springs'], of: ({ springs }) => springs.map(({ id, amount }) => `${id}:${amount}`).join() },
    { reads: ['strides'], of: ({ strides }) => strides.map(({ id, speed, amount }) => `${id}:${speed}:${amount}`).join() },
    { reads: ['idles'], of: ({ idles }) => idles.map(({ id, amount }) => `${id}:${amount}`).join() },
  ],
  compile(puppet) {
    const slots = makeSlots(puppet)
    return { slots, restPose: slots.rest }
  },
}
