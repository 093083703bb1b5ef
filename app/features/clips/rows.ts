/** Rows of the timeline: a group for each limb, part and kind of thing, and in it a row for each channel that has keys. */
import type { ClipLayer, Key, Track } from '@marionette/core/clips/records'
import { weightChannel } from '@marionette/core/clips/layers'
import type { Control } from '@marionette/core/controls/records'
import { limbUpTo } from '@marionette/core/bones/tree'
import { channelOf, FAMILIES } from '@marionette/core/puppet/channels'
import { nth } from '@marionette/core/kernel/sure'
import type { Puppet } from '@marionette/core/puppet/schema'

export const ROW = 22

export interface TrackRow {
  readonly kind: 'track'
  readonly id: string
  readonly name: string
  readonly colour: string
  readonly keys: readonly Key[]
}

export interface GroupRow {
  readonly kind: 'group'
  readonly id: string
  readonly name: string
  readonly colour: string
  readonly isOpen: boolean
  readonly count: number
  /** Times at which anything in it has a key, rising. */
  readonly times: readonly number[]
  /** All its keys, as channel and time. */
  readonly keys: readonly { readonly channel: string; readonly time: number }[]
}

export type TimelineRow = TrackRow | GroupRow

interface Placed {
  readonly group: string
  readonly groupName: string
  readonly name: string
  readonly colour: string
}

const QUIET = 'var(--quiet)'

const known = new WeakMap<Puppet, Map<string, Placed>>()

/** Where the row of a channel lies, and what it is called. Remembered for a puppet: while keys are dragged it is asked at every move. */
export function placeOf(puppet: Puppet, address: string, layers: readonly Pick<ClipLayer, 'id' | 'name'>[]): Placed {
  if (address.startsWith('layer/')) {
    const weighed = layers.find((layer) => weightChannel(layer.id) === address)
    if (weighed) return { group: 'layers', groupName: 'Layers', name: `${weighed.name}, weight`, colour: QUIET }
  }
  const places = known.get(puppet) ?? new Map<string, Placed>()
  known.set(puppet, places)
  const place = places.get(address) ?? freshPlace(puppet, address)
  places.set(address, place)
  return place
}

function freshPlace(puppet: Puppet, address: string): Placed {
  const [family = '', id = ''] = address.split('/')
  const label = channelOf(puppet, address)?.label ?? ''
  const bone = family === 'bone' ? puppet.bones[id] : undefined
  if (bone) {
    const root = puppet.bones[limbUpTo(puppet, bone.id)[0] ?? bone.id] ?? bone
    const name = label === '' || address.endsWith('/angle') ? bone.name : `${bone.name}, ${label.toLowerCase()}`
    return { group: `bone/${root.id}`, groupName: root.name, name, colour: `var(--chain-${bone.colour})` }
  }
  const control = family === 'control' ? puppet.controls.find((c) => c.id === id) : undefined
  if (control) return placeOfControl(puppet, control, address, label)
  const part = family === 'part' ? puppet.parts[id] : undefined
  if (part) return { group: `part/${id}`, groupName: part.name, name: `${part.name}, ${label.toLowerCase()}`, colour: QUIET }
  const name = FAMILIES.get(family)?.first.find(puppet, id)?.name ?? id
  return {
    group: family,
    groupName: `${family[0]?.toUpperCase() ?? ''}${family.slice(1)}s`,
    name: `${name}, ${label.toLowerCase()}`,
    colour: QUIET,
  }
}

/** Where a control's channel stands; one that serves the clip goes by the part that it shapes. */
function placeOfControl(puppet: Puppet, control: Control, address: string, label: string): Placed {
  if (control.place.on === 'clip') {
    const shaped = puppet.parts[control.place.part]?.name ?? control.name
    return { group: 'hand', groupName: 'By hand', name: `${shaped}, shape`, colour: QUIET }
  }
  const name = address.endsWith('/value') ? control.name : `${control.name}, ${label.toLowerCase()}`
  return { group: `control/${control.group}`, groupName: control.group || 'Controls', name, colour: `var(--chain-${control.colour})` }
}

/**
 * Rows of a layer.
 *
 * @param unfolded groups whose channels are listed
 * @param layers all of the clip, whose weights may be keyed
 * @param isListed leaves out rows of other channels
 */
export function rowsOf(
  puppet: Puppet,
  { tracks: keyed }: ClipLayer,
  unfolded: ReadonlySet<string>,
  layers: readonly ClipLayer[],
  isListed: (address: string, track: Track) => boolean = () => true,
): TimelineRow[] {
  const groups = new Map<string, { placed: Placed; tracks: TrackRow[] }>()
  for (const [address, track] of Object.entries(keyed)) {
    if (!isListed(address, track)) continue
    const placed = placeOf(puppet, address, layers)
    const group = groups.get(placed.group) ?? { placed, tracks: [] }
    groups.set(placed.group, group)
    group.tracks.push({ kind: 'track', id: address, name: placed.name, colour: placed.colour, keys: track.keys })
  }
  return [...groups].flatMap(([id, { placed, tracks }]): TimelineRow[] => {
    // A group of one needs no heading.
    if (tracks.length === 1) return tracks
    const isOpen = unfolded.has(id)
    const keys = tracks.flatMap((row) => row.keys.map(({ time }) => ({ channel: row.id, time })))
    const times = [...new Set(keys.map(({ time }) => time))].sort((a, b) => a - b)
    const head: GroupRow = { kind: 'group', id, name: placed.groupName, colour: placed.colour, isOpen, count: tracks.length, times, keys }
    return isOpen ? [head, ...tracks] : [head]
  })
}

/** Whether the keys of a track differ. */
export const isMoving = ({ keys }: Track): boolean => keys.some((key) => key.value !== nth(keys, 0).value)
