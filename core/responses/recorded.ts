/** Recorded changes as numbers: which places among the answers they move, and by how much. */
import type { Change, Stop } from './records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { slotOfChannel, type Slots } from '../kernel/slots'
import { labStep, type PaintOverride } from './paintOverrides'
import { shiftsOf } from '../placement/reshape'
import type { Reshape } from '../placement/drawing'

/** Where things stand among the answers. */
export interface Places {
  readonly puppet: Puppet
  readonly slots: Slots
  /** Shifts of the points of a drawing of the rig, by the part that shows it. */
  readonly reshapes: ReadonlyMap<string, { readonly reshape: Reshape; readonly base: number }>
  readonly looks: ReadonlyMap<string, PaintOverride>
}

/** What one stop does when it counts in whole. */
export interface Recorded {
  /** Place -> what is added, or what it is multiplied by less one. */
  readonly sums: ReadonlyMap<number, number>
  readonly factors: ReadonlyMap<number, number>
  /** Slot -> what is chosen. */
  readonly choices: ReadonlyMap<number, number>
}

/** Names a look by what it is about. */
export const lookKey = (
  part: string,
  drawing: string,
  shape: number,
  of: string,
  stop: number | null,
  kind: PaintOverride['kind'],
): string => [part, drawing, shape, of, stop ?? '', kind].join('/')

/** What a stop recorded, by places among the answers; muted changes are left out. */
export function recordedOf(places: Places, { changes }: Pick<Stop, 'changes'>): Recorded {
  const out = { sums: new Map<number, number>(), factors: new Map<number, number>(), choices: new Map<number, number>() }
  for (const change of changes) if (!change.muted) add(places, change, out)
  return out
}

function add(places: Places, change: Change, { sums, factors, choices }: { [K in keyof Recorded]: Map<number, number> }): void {
  const { puppet, slots, reshapes, looks } = places
  const sum = (place: number, by: number): void => {
    if (by !== 0) sums.set(place, (sums.get(place) ?? 0) + by)
  }
  switch (change.kind) {
    case 'channel': {
      const channel = slots.channelOf(change.channel)
      const slot = channel ? slotOfChannel(slots, channel) : -1
      if (slot < 0 || channel!.kind === 'choice') return
      if (channel!.kind === 'scale') factors.set(slot, (change.by - 1) * change.scale)
      else sum(slot, change.by * change.scale)
      return
    }
    case 'choice': {
      const channel = slots.channelOf(change.channel)
      const slot = channel ? slotOfChannel(slots, channel) : -1
      if (slot >= 0) choices.set(slot, change.to)
      return
    }
    case 'points': {
      const found = reshapes.get(change.part)
      if (found?.reshape.source.id !== change.drawing) return
      shiftsOf(found.reshape, change, (point, x, y) => {
        sum(found.base + 2 * point, x * change.scale)
        sum(found.base + 2 * point + 1, y * change.scale)
      })
      return
    }
    case 'paint': {
      const look = looks.get(lookKey(change.part, change.drawing, change.shape, change.of, change.stop, 'colour'))
      const step = look && labStep(drawingNamed(puppet, change.drawing)!, change)
      step?.forEach((v, k) => sum(look!.base + k, v * change.scale))
      return
    }
    case 'width': {
      const look = looks.get(lookKey(change.part, change.drawing, change.shape, 'line', null, 'width'))
      if (look) factors.set(look.base, (change.by - 1) * change.scale)
    }
  }
}

const drawingNamed = (puppet: Puppet, id: string): Drawing | undefined => puppet.drawings[id]
