/** The other side of a puppet: addresses and values of channels when left and right are swapped. */
import { channelAddress } from '../kernel/channel'
import { mirroredValue } from '../kernel/mirrored'
import { channelOf, FAMILIES } from './channels'
import type { Puppet } from './schema'

/** The address on the other side; the same where there is none. */
export function otherAddress(puppet: Puppet, address: string): string {
  const [family = '', id = '', field = ''] = address.split('/')
  const made = channelAddress(family, FAMILIES.get(family)?.first.other?.(puppet, id) ?? id, field)
  return channelOf(puppet, made) ? made : address
}

/** 1 for a channel that is the same on the other side, -1 for one that goes the other way. */
export function mirrorSign(puppet: Puppet, address: string): 1 | -1 {
  const [family = '', id = '', field = ''] = address.split('/')
  return FAMILIES.get(family)?.fields.get(field)?.from.turns?.(puppet, id, field) ? -1 : 1
}

/** The mirror image of a pose: what goes the other way does so from rest. */
export function mirroredPose(puppet: Puppet, values: Readonly<Record<string, number>>): Record<string, number> {
  const image = (address: string, value: number): number =>
    mirroredValue(value, mirrorSign(puppet, address), channelOf(puppet, address)?.rest ?? 0)
  return Object.fromEntries(Object.entries(values).map(([a, v]) => [otherAddress(puppet, a), image(a, v)]))
}
