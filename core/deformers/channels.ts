/** What of deformers and of their handles can be posed. */
import { channelAddress, MOVED, TURNED, type ChannelFamily } from '../kernel/channel'
import { handlesOf, type Deformer } from './records'
import { stackedIn, type HandleRecord } from './stack'
import { kindOfDeformer } from './kinds'

/** Channels of deformers: how strong each is. */
export const deformerChannels: ChannelFamily<Deformer> = {
  family: 'deformer',
  fields: {
    on: { kind: 'choice', rest: 1, label: 'On', unit: '', min: 0, max: 1 },
    amount: { kind: 'scalar', rest: 1, label: 'Amount', unit: '' },
  },
  moves: true,
  records: (puppet) => [...stackedIn(puppet).deformers.values()],
  find: (puppet, id) => stackedIn(puppet).deformers.get(id),
  own: ({ on, amount }, field) => ({ rest: field === 'on' ? Number(on) : amount }),
}

/** Channels of the handles of deformers: shifts in px. */
export const handleChannels: ChannelFamily<HandleRecord> = {
  family: 'handle',
  fields: { ...MOVED, angle: TURNED, scale: { kind: 'scale', rest: 1, label: 'Scale', unit: '', min: 0.01, max: 100 } },
  moves: true,
  records: (puppet) => [...stackedIn(puppet).handles.values()],
  find: (puppet, id) => stackedIn(puppet).handles.get(id),
  has: ({ deformer, id }, field) => field === 'x' || field === 'y' || kindOfDeformer(deformer).hasField(deformer, id, field),
}

/** Every address of a deformer and of its handles. */
export const addressesOfDeformer = (deformer: Deformer): string[] => [
  ...Object.keys(deformerChannels.fields).map((field) => channelAddress('deformer', deformer.id, field)),
  ...handlesOf(deformer).flatMap((id) => Object.keys(handleChannels.fields).map((field) => channelAddress('handle', id, field))),
]
