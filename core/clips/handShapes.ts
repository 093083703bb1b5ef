/**
 * Shapes made by hand in a clip: single points of a part, keyed on top of controls, responses and alternates.
 *
 * They are what the puppet has already: a response with a stop for each shape, and a control that nobody sees which goes through them.
 * Its keys stand in the clip like all others. Rest is 0; each key has a place of its own among those before and after it in time, so that
 * from key to key the part goes from shape to shape and passes no other one.
 */
import { addControl } from '../controls/commands'
import { newControl } from '../controls/new'
import { controlChannel, type Control } from '../controls/records'
import { edit, type Edit } from '../kernel/command'
import type { ControlId, PartId, ResponseId, StopId } from '../kernel/ids'
import { nth, recordOf } from '../kernel/sure'
import { addResponse, addStop } from '../responses/commands'
import { newResponse } from '../responses/new'
import type { Change, ChangeOf, Response } from '../responses/records'
import type { Puppet } from '../puppet/schema'
import { compileTrack, trackValue } from './curve'
import { setKeys } from './keyCommands'
import { clipOf, isSameTime, layerOf } from './lookup'
import type { Key } from './records'

export interface HandIds {
  readonly control: ControlId
  readonly response: ResponseId
  readonly stop: StopId
}

/** What a shape by hand is made of: edits that make room for it, and where it is recorded. */
export interface HandPlan {
  readonly edits: readonly Edit[]
  readonly response: ResponseId
  readonly stop: StopId
}

/** Shapes of a part in one clip, at most to either side of rest. */
const MOST_SHAPES = 1000

/** The control that goes through the shapes of a part in a clip, with its response. */
export function handOf({ controls, responses }: Puppet, clip: string, part: PartId): { control: Control; response: Response } | null {
  const control = controls.find(({ place }) => place.on === 'clip' && place.clip === clip && place.part === part)
  const response =
    control && responses.find(({ inputs: [input] }) => input?.kind === 'channel' && input.channel === controlChannel(control))
  return control && response ? { control, response } : null
}

/** The value for a key at a time: that of the key that is there unless it is at rest, else one between its neighbours. */
function placeAt(keys: readonly Key[], time: number): { at: number; isNew: boolean } {
  const there = keys.find((key) => isSameTime(key.time, time))
  if (there && there.value !== 0) return { at: there.value, isNew: false }
  const before = keys.findLast((key) => key.time < time && !isSameTime(key.time, time))
  const after = keys.find((key) => key.time > time && !isSameTime(key.time, time))
  if (before && after) return { at: (before.value + after.value) / 2, isNew: true }
  if (after) return { at: after.value - 1, isNew: true }
  return { at: (before?.value ?? 0) + 1, isNew: true }
}

type Points = ChangeOf<'points'>

/** What a response changes between two of its stops, evenly; rest is a stop at 0. Colours and choices are those of the nearer stop. */
export function changesBetween({ stops }: Pick<Response, 'stops'>, at: number): Change[] {
  const all = [...stops.map((stop) => ({ at: nth(stop.at, 0), changes: stop.changes })), { at: 0, changes: [] as Change[] }]
  const sorted = all.sort((a, b) => a.at - b.at)
  const above = sorted.findIndex((stop) => stop.at >= at)
  if (above <= 0) return [...nth(sorted, above < 0 ? -1 : 0).changes]
  const [low, high] = [nth(sorted, above - 1), nth(sorted, above)]
  const share = (at - low.at) / (high.at - low.at)
  const isPoints = (change: Change): change is Points => change.kind === 'points'
  const nearer = (share < 0.5 ? low : high).changes.filter((change) => !isPoints(change))
  return [...nearer, ...mixedPoints(low.changes.filter(isPoints), high.changes.filter(isPoints), share)]
}

function mixedPoints(low: readonly Points[], high: readonly Points[], share: number): Points[] {
  const keyOf = ({ part, drawing }: Points): string => `${part}/${drawing}`
  const keys = [...new Set([...low, ...high].map(keyOf))]
  return keys.flatMap((key) => {
    const sides = [
      { change: low.find((c) => keyOf(c) === key), weight: 1 - share },
      { change: high.find((c) => keyOf(c) === key), weight: share },
    ]
    const sums = new Map<number, number[]>()
    for (const { change, weight } of sides)
      change?.ids.forEach((id, k) => {
        const sum = sums.get(id) ?? [0, 0, 0, 0, 0, 0]
        sums.set(
          id,
          sum.map((v, axis) => v + weight * change.scale * nth(change.by, 6 * k + axis)),
        )
      })
    const model = sides[0]?.change ?? sides[1]?.change
    if (!model || sums.size === 0) return []
    const { part, drawing } = model
    return [{ kind: 'points', muted: false, scale: 1, part, drawing, ids: [...sums.keys()], by: [...sums.values()].flat() }]
  })
}

/** Makes room for a shape of a part at a time of a layer, begun from what is seen there. */
export function planHandShape(puppet: Puppet, at: { clip: string; layer: string; part: PartId; time: number }, ids: HandIds): HandPlan {
  const clip = clipOf(puppet, at.clip)
  const known = handOf(puppet, clip.id, at.part)
  if (!known) return firstShape(puppet, at, ids)
  const { control, response } = known
  const channel = controlChannel(control)
  const track = layerOf(clip, at.layer).tracks[channel]
  const place = placeAt(track?.keys ?? [], at.time)
  const key = { channel, time: at.time, value: place.at, way: 'flat' as const }
  const keys = edit(setKeys, {
    clip: clip.id,
    layer: at.layer,
    keys: track || at.time === 0 ? [key] : [{ ...key, time: 0, value: 0 }, key],
  })
  const there = response.stops.find((stop) => Math.abs(nth(stop.at, 0) - place.at) < 1e-9)
  if (there) return { edits: place.isNew ? [keys] : [], response: response.id, stop: there.id }
  const seen = track ? trackValue(compileTrack(track), at.time) : 0
  const stop = { id: ids.stop, at: [place.at], changes: changesBetween(response, seen) }
  return { edits: [edit(addStop, { response: response.id, stop }), keys], response: response.id, stop: ids.stop }
}

function firstShape(
  puppet: Puppet,
  { clip, layer, part, time }: { clip: string; layer: string; part: PartId; time: number },
  ids: HandIds,
): HandPlan {
  const { name } = recordOf(puppet.parts, part)
  const said = `${name}, by hand in ${clipOf(puppet, clip).name}`.slice(0, 200)
  const control: Control = {
    ...newControl(ids.control, said),
    range: { min: -MOST_SHAPES, max: MOST_SHAPES, rest: 0 },
    place: { on: 'clip', clip, part },
  }
  const channel = controlChannel(control)
  const response: Response = {
    ...newResponse(ids.response, said, 'ruler', [{ kind: 'channel', channel }]),
    ...{ between: 'even', stops: [{ id: ids.stop, at: [1], changes: [] }] },
  }
  const key = { channel, time, value: 1, way: 'flat' as const }
  return {
    edits: [
      edit(addControl, { control }),
      edit(addResponse, { response }),
      // Before its first shape the part is as it always is.
      edit(setKeys, { clip, layer, keys: time === 0 ? [key] : [{ ...key, time: 0, value: 0 }, key] }),
    ],
    response: ids.response,
    stop: ids.stop,
  }
}
