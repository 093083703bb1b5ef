/** What follows for recorded points when drawings are edited: they go along with them. */
import type { Repair } from '../kernel/records'
import type { Puppet } from '../puppet/schema'
import { carriedOver, pointIds } from './carryOver'
import type { Change, Response } from './records'
import { drawingBy } from '../artwork/art'

/** A list with items changed or taken out; the same list where all are as they were. */
function keptAll<T>(list: readonly T[], keep: (item: T) => T | null): readonly T[] {
  const kept = list.flatMap((item) => keep(item) ?? [])
  return kept.length === list.length && kept.every((item, i) => item === list[i]) ? list : kept
}

function keptResponse(before: Puppet, after: Puppet, response: Response): Response {
  // One that came with this edit was made for the drawings as they are now.
  const from = before.responses.some((r) => r.id === response.id) ? before : { ...before, drawings: after.drawings }
  const stops = keptAll(response.stops, (stop) => {
    const changes = keptAll(stop.changes, (change) => keptChange(from, after, change))
    return changes === stop.changes ? stop : { ...stop, changes: [...changes] }
  })
  return stops === response.stops ? response : { ...response, stops: [...stops] }
}

/** Recorded points follow their drawings: to new points, to another drawing in its place, or into nothing. */
export const carryPoints: Repair = (before, after) => {
  if (after.responses.length === 0 || (before.drawings === after.drawings && before.parts === after.parts)) return null
  const responses = keptAll(after.responses, (response) => keptResponse(before, after, response))
  return responses === after.responses ? null : (puppet) => void (puppet.responses = [...responses])
}

function keptChange(before: Puppet, after: Puppet, change: Change): Change | null {
  if (change.kind === 'channel' || change.kind === 'choice') return change
  const art = after.parts[change.part]?.art
  if (!art) return null
  if (!Object.values(art).includes(change.drawing)) return change.kind === 'points' ? onNewDrawing(before, after, change) : null
  const [was, is] = [before.drawings[change.drawing], after.drawings[change.drawing]]
  if (!is) return null
  if (was === is || !was) return change
  if (change.kind !== 'points') return is.shapes.some((s) => s.id === change.shape) ? change : null
  const [old, now] = [pointIds(was), pointIds(is)]
  return old.size === now.size && [...now].every((id) => old.has(id)) ? change : carriedOver(change, was, is)
}

/** The part shows another drawing in the same view now: what was recorded goes over to it by where its points lie. */
function onNewDrawing(before: Puppet, after: Puppet, change: Extract<Change, { kind: 'points' }>): Change | null {
  const view = Object.entries(before.parts[change.part]?.art ?? {}).find(([, drawing]) => drawing === change.drawing)?.[0]
  const [was, is] = [before.drawings[change.drawing], drawingBy(after, after.parts[change.part]!.art[view ?? ''] ?? '')]
  return was && is ? carriedOver(change, was, is, 'places') : null
}
