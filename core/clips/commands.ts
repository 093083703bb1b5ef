/** Commands on clips, their layers and their markers. */
import { current } from 'immer'
import { z } from 'zod'
import { ClipId, LayerId, MarkerId, PartId } from '../kernel/ids'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { finite, Name } from '../kernel/numbers'
import { ChannelAddress } from '../kernel/ids'
import { clampTo } from '../kernel/channel'
import { putKey, newKey } from './edits'
import { clipOf, layerOf } from './lookup'
import { Clip, ClipLayer, LayerMode, Marker, Seconds } from './records'
import { mirroredClip } from './mirror'
import { weightChannel } from './layers'

/** Adds a clip. */
export const addClip = command('clip.add', 'New clip', z.object({ clip: Clip }), (puppet, { clip }) => {
  if (puppet.clips.some(({ id }) => id === clip.id)) throw new EditError(`There is a clip "${clip.id}" already.`)
  puppet.clips.push(clip)
})

/** Changes what a clip is called, how long it is, how it is counted, and what of it is played round and round. */
export const setClip = command(
  'clip.set',
  'Change clip',
  z.object({
    clip: ClipId,
    name: Name.optional(),
    length: Clip.shape.length.optional(),
    rate: Clip.shape.rate.optional(),
    step: Clip.shape.step.optional(),
    range: Clip.shape.range.optional(),
    tempo: Clip.shape.tempo.optional(),
  }),
  (puppet, { clip: id, ...given }) => {
    const clip = clipOf(puppet, id)
    const { range } = given
    if (range && range.from >= range.to) throw new EditError('What is played round and round must end after it begins.')
    Object.assign(clip, Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
  },
)

/** Deletes a clip. */
export const deleteClip = command('clip.delete', 'Delete clip', z.object({ clip: ClipId }), (puppet, { clip }) => {
  puppet.clips.splice(puppet.clips.indexOf(clipOf(puppet, clip)), 1)
})

/** Copies a clip, as it is or as its mirror image; the copy stands after it. */
export const copyClip = command(
  'clip.copy',
  'Duplicate clip',
  z.object({ clip: ClipId, id: ClipId, name: Name, mirrored: z.boolean() }),
  (puppet, { clip: from, id, name, mirrored }, host) => {
    const clip = clipOf(puppet, from)
    const plain = current(clip)
    const copy = { ...(mirrored ? mirroredClip(puppet, plain, host) : plain), id, name }
    puppet.clips.splice(puppet.clips.indexOf(clip) + 1, 0, withIdsOf(copy, id))
  },
)

/** A copied clip with ids of its own for all that is in it, and keys that name them. */
function withIdsOf(clip: Clip, prefix: string): Clip {
  const ids = new Map<string, string>()
  for (const [kind, list] of [
    ['layer', clip.layers],
    ['pose', clip.poses],
    ['marker', clip.markers],
    ['sound', clip.sounds],
  ] as const)
    list.forEach(({ id }, k) => ids.set(id, `${prefix}-${kind}-${k + 1}`))
  const own = (id: string): string => ids.get(id) ?? id
  const channels = new Map(clip.layers.map(({ id }) => [weightChannel(id), weightChannel(own(id))]))
  const layers = clip.layers.map((layer) => ({
    ...layer,
    id: own(layer.id),
    spoken: layer.spoken && { ...layer.spoken, sound: layer.spoken.sound === null ? null : own(layer.spoken.sound) },
    tracks: Object.fromEntries(
      Object.entries(layer.tracks).map(([address, track]) => [
        channels.get(address) ?? address,
        { ...track, keys: track.keys.map((key) => ({ ...key, pose: key.pose === null ? null : own(key.pose) })) },
      ]),
    ),
  }))
  const renamed = <T extends { id: string }>(list: readonly T[]): T[] => list.map((item) => ({ ...item, id: own(item.id) }))
  return { ...clip, layers, poses: renamed(clip.poses), markers: renamed(clip.markers), sounds: renamed(clip.sounds) }
}

/** Adds a layer on top of a clip. */
export const addLayer = command('layer.add', 'New layer', z.object({ clip: ClipId, layer: ClipLayer }), (puppet, { clip: id, layer }) => {
  clipOf(puppet, id).layers.push(layer)
})

/** Changes a layer: how it lies over those below, how much of it shows, and what it is kept to. */
export const setLayer = command(
  'layer.set',
  'Change layer',
  z.object({
    clip: ClipId,
    layer: LayerId,
    name: Name.optional(),
    mode: LayerMode.optional(),
    muted: z.boolean().optional(),
    weight: z.number().min(0).max(1).optional(),
    parts: z.array(PartId).max(500).nullable().optional(),
  }),
  (puppet, { clip, layer: id, ...given }) => {
    const layer = layerOf(clipOf(puppet, clip), id)
    Object.assign(layer, Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
  },
)

/** Deletes a layer. The base stays: it is what all others lie on. */
export const deleteLayer = command(
  'layer.delete',
  'Delete layer',
  z.object({ clip: ClipId, layer: LayerId }),
  (puppet, { clip: id, layer }) => {
    const clip = clipOf(puppet, id)
    const at = clip.layers.indexOf(layerOf(clip, layer))
    if (at === 0) throw new EditError('The base of a clip stays; its keys can be deleted.')
    clip.layers.splice(at, 1)
  },
)

/** Adds a marker, or changes the one with its id. */
export const setMarker = command('marker.set', 'Set marker', z.object({ clip: ClipId, marker: Marker }), (puppet, { clip: id, marker }) => {
  const clip = clipOf(puppet, id)
  clip.markers = [...clip.markers.filter((m) => m.id !== marker.id), marker].sort((a, b) => a.time - b.time)
})

/** Deletes a marker. */
export const deleteMarker = command(
  'marker.delete',
  'Delete marker',
  z.object({ clip: ClipId, marker: MarkerId }),
  (puppet, { clip: id, marker }) => {
    const clip = clipOf(puppet, id)
    const at = clip.markers.findIndex((m) => m.id === marker)
    if (at < 0) throw new EditError(`The clip ${clip.name} has no marker "${marker}".`)
    clip.markers.splice(at, 1)
  },
)

/** Poses channels over a clip without keying them; null takes one back to what the tracks say. */
export const setLoose = command(
  'clip.pose',
  'Pose',
  z.object({ clip: ClipId, values: z.record(ChannelAddress, finite.nullable()) }),
  (puppet, { clip: id, values }, { channelOf }) => {
    const clip = clipOf(puppet, id)
    for (const [address, value] of Object.entries(values)) {
      const channel = channelOf(puppet, address)
      if (!channel) throw new EditError(`Nothing in this puppet answers to "${address}".`)
      if (value === null) delete clip.loose[address]
      else clip.loose[address] = clampTo(channel, value)
    }
  },
)

/** Makes keys at a time of what is posed and not keyed. */
export const keepLoose = command(
  'clip.keep',
  'Keep as keys',
  z.object({ clip: ClipId, layer: LayerId, time: Seconds }),
  (puppet, { clip: id, layer, time }) => {
    const clip = clipOf(puppet, id)
    const into = layerOf(clip, layer)
    if (Object.keys(clip.loose).length === 0) throw new EditError('Everything that is posed has its key.')
    for (const [address, value] of Object.entries(clip.loose)) putKey(into, address, newKey(time, value))
    clip.loose = {}
  },
)

/** Drops what is posed and not keyed. */
export const dropLoose = command('clip.drop', 'Drop what is not keyed', z.object({ clip: ClipId }), (puppet, { clip }) => {
  clipOf(puppet, clip).loose = {}
})
