/**
 * Recording: an edit by any tool, turned into changes of a stop.
 *
 * While a response is recorded the document stays as it is. What an edit would have made of it is compared with it, each
 * difference becomes a change of the stop, and evaluating the response shows the same. What no response could answer with is
 * refused with a sentence.
 */
import { channelOf } from '../puppet/channels'
import type { PartId } from '../kernel/ids'
import { changeKey, type Change, type ChangeOf, type Response, type Stop } from '../responses/records'
import type { Drawing, Ink, Line } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { pointIds } from '../responses/carryOver'
import { movedPoints } from './points'
import { companionsOf, recordedTogether } from './together'
import { EditError } from '../kernel/errors'
import { viewChannel } from '../views/channels'
import type { Frame } from '../puppet/frame'
import { nth, sure } from '../kernel/sure'

const fresh = { muted: false, scale: 1 }

/** A stop with its response while it is recorded. */
export interface Recording {
  readonly response: Response
  readonly stop: Stop
  /** The part whose drawing is edited, where several show it. */
  readonly part: PartId | null
}

/**
 * The changes of a stop after an edit.
 *
 * @param frame of the puppet before the edit, at the stop
 * @param after what the edit would have made of the puppet. Throws EditError for what cannot be recorded
 */
export function recordedChanges(frame: Frame, before: Puppet, after: Puppet, { response, stop, part }: Recording): Change[] {
  const changes = new Map(stop.changes.map((c) => [changeKey(c), c]))
  const put = (change: Change): void => {
    if (isNothing(change)) changes.delete(changeKey(change))
    else changes.set(changeKey(change), change)
  }
  refuseRest(before, after)
  recordPose(before, after, response, changes, put)
  recordParts(before, after, part, put)
  for (const drawing of Object.values(before.drawings)) {
    const next = after.drawings[drawing.id]
    if (next === drawing) continue
    if (!next) throw new EditError('A drawing cannot be taken away while a response is recorded; hide the part instead.')
    const shown = shownBy(before, drawing, part)
    recordDrawing(frame, shown, drawing, next, changes, put)
    takeAlong(before, after, shown, drawing.id, stop, changes, put)
  }
  return [...changes.values()]
}

/** Drawings whose points coincide with those that were moved go along, but for those that the edit moves itself. */
function takeAlong(
  before: Puppet,
  after: Puppet,
  part: PartId,
  drawing: string,
  stop: Stop,
  changes: ReadonlyMap<string, Change>,
  put: (change: Change) => void,
): void {
  const points = (found: Change | undefined): ChangeOf<'points'> | null => (found?.kind === 'points' ? found : null)
  const key = `points/${part}/${drawing}`
  const [was, is] = [points(stop.changes.find((c) => changeKey(c) === key)), points(changes.get(key))]
  if (was === is) return
  for (const companion of companionsOf(before, part)) {
    if (after.drawings[companion.drawing.id] !== companion.drawing) continue
    const known = points(changes.get(`points/${companion.part}/${companion.drawing.id}`))
    const together = recordedTogether(companion, was, is, known)
    if (together) put(together)
  }
}

/** Fields of a puppet that recording can answer for, or that are compared on their own. */
const COMPARED = new Set<keyof Puppet>(['pose', 'parts', 'drawings', 'view'])

const WORDS: Partial<Record<keyof Puppet, string>> = {
  bones: 'Bones at rest are',
  skeleton: 'The tree of bones is',
  targets: 'Targets at rest are',
  constraints: 'Constraints are',
  palette: 'The palette is',
  responses: 'Another response is',
  controls: 'Controls are',
  pictures: 'Pictures are',
}

function refuseRest(before: Puppet, after: Puppet): void {
  for (const key of Object.keys(before) as (keyof Puppet)[])
    if (!COMPARED.has(key) && before[key] !== after[key]) refuse(WORDS[key] ?? 'This is')
  if (Object.keys(after.drawings).some((id) => !before.drawings[id])) refuse('New drawings are')
}

function refuse(what: string): never {
  throw new EditError(`${what} not part of a recording: keep or discard it first.`)
}

/** Whether a change leaves everything as it is. */
function isNothing(change: Change): boolean {
  if (change.kind === 'channel') return change.by === 0
  if (change.kind === 'width') return change.by === 1
  return change.kind === 'points' && change.ids.length === 0
}

/** Channels: what was added to a sum, what a scale was multiplied by, what was chosen. */
function recordPose(
  before: Puppet,
  after: Puppet,
  response: Response,
  changes: ReadonlyMap<string, Change>,
  put: (change: Change) => void,
): void {
  const inputAddresses = new Set(response.inputs.flatMap((i) => (i.kind === 'channel' ? [i.channel] : [])))
  for (const address of new Set([...Object.keys(before.pose), ...Object.keys(after.pose)])) {
    const channel = channelOf(before, address)
    const [was, is] = [before.pose[address] ?? channel?.rest, after.pose[address] ?? channel?.rest]
    if (!channel || was === undefined || is === undefined || was === is) continue
    if (address === viewChannel(before)) refuse('The view is')
    if (inputAddresses.has(address)) throw new EditError('The input stays at its stop while this is recorded.')
    const old = changes.get(address)
    const kept = old ? { muted: old.muted, scale: old.scale } : fresh
    if (channel.kind === 'choice') put({ kind: 'choice', ...kept, channel: address, to: is })
    else if (channel.kind === 'scale') recordFactor(address, was, is, old, kept, put)
    else {
      const by = (old?.kind === 'channel' ? old.by : 0) + (is - was) / (kept.scale || 1)
      put({ kind: 'channel', ...kept, channel: address, by: Math.abs(by) < 1e-9 ? 0 : by })
    }
  }
}

function recordFactor(
  address: string,
  was: number,
  is: number,
  old: Change | undefined,
  kept: typeof fresh,
  put: (change: Change) => void,
): void {
  if (was === 0) throw new EditError('What is scaled to nothing stays nothing, whatever it is scaled by.')
  const acting = old?.kind === 'channel' ? 1 + (old.by - 1) * old.scale : 1
  const by = 1 + (acting * (is / was) - 1) / (kept.scale || 1)
  put({ kind: 'channel', ...kept, channel: address, by: Math.abs(by - 1) < 1e-9 ? 1 : by })
}

/** Fields of a part that may differ: others are its rest. */
const RECORDED_FIELDS = new Set<keyof Part>(['opacity', 'visible', 'masks', 'children'])

function recordParts(before: Puppet, after: Puppet, edited: PartId | null, put: (change: Change) => void): void {
  if (before.parts === after.parts) return
  if (Object.keys(before.parts).some((id) => !after.parts[id])) refuse('Parts that come or go are')
  for (const id of new Set([...Object.keys(before.parts), ...Object.keys(after.parts)])) {
    const [was, is] = [before.parts[id], after.parts[id]]
    if (was === is) continue
    if (!was || !is) refuse('Parts that come or go are')
    for (const key of Object.keys(was) as (keyof Part)[])
      if (was[key] !== is[key] && !RECORDED_FIELDS.has(key)) refuse(`“${was.name}” at rest is`)
    if (was.opacity !== is.opacity) put({ kind: 'channel', ...fresh, channel: `part/${id}/opacity`, by: is.opacity - was.opacity })
    if (was.visible !== is.visible) put({ kind: 'choice', ...fresh, channel: `part/${id}/shown`, to: Number(is.visible) })
    if (was.masks !== is.masks) recordMasks(was, is, put)
    if (was.children !== is.children) recordOrder(was, is, edited, put)
  }
}

function recordMasks(was: Part, is: Part, put: (change: Change) => void): void {
  if (was.masks.length === 0 || is.masks.length > 0) refuse('Other masks are')
  put({ kind: 'choice', ...fresh, channel: `part/${was.id}/masked`, to: 0 })
}

/** One part that goes to another place among its siblings. */
function recordOrder(was: Part, is: Part, edited: PartId | null, put: (change: Change) => void): void {
  const first = was.children.filter((id) => id === edited)
  const moved = [...first, ...was.children].find((id) => {
    const without = (list: readonly string[]): string => list.filter((c) => c !== id).join(' ')
    return without(was.children) === without(is.children)
  })
  if (moved === undefined || was.children.length !== is.children.length) refuse('Parts in another group, or several at once, are')
  put({ kind: 'choice', ...fresh, channel: `part/${moved}/order`, to: is.children.indexOf(moved) - was.children.indexOf(moved) })
}

/** The part that shows a drawing, the one that is edited before others. */
function shownBy({ parts }: Puppet, drawing: Drawing, edited: PartId | null): PartId {
  const shows = (p: Part | undefined): boolean => p !== undefined && Object.values(p.art).includes(drawing.id)
  if (edited !== null && shows(parts[edited])) return edited
  const found = Object.values(parts).find(shows)
  return found ? found.id : refuse('A drawing that nothing shows is')
}

function recordDrawing(
  frame: Frame,
  part: PartId,
  before: Drawing,
  after: Drawing,
  changes: ReadonlyMap<string, Change>,
  put: (change: Change) => void,
): void {
  const [was, is] = [pointIds(before), pointIds(after)]
  const shapes = new Map(after.shapes.map((s) => [s.id, s]))
  if (was.size !== is.size || [...was].some((id) => !is.has(id)) || before.shapes.some((s) => !shapes.has(s.id)))
    throw new EditError('A recording keeps the points that there are: add or take away points before or after it.')
  for (const shape of before.shapes) {
    const next = sure(shapes.get(shape.id))
    if (next === shape) continue
    if (shape.alpha !== next.alpha) refuse('The opacity of one shape is')
    const about = { part, drawing: before.id, shape: shape.id }
    recordPaint({ ...about, of: 'ink' }, shape.ink, next.ink, put)
    recordPaint({ ...about, of: 'line' }, shape.line, next.line, put)
    if (shape.line && next.line && shape.line.width !== next.line.width)
      put({ kind: 'width', ...fresh, ...about, by: next.line.width / Math.max(shape.line.width, 1e-6) })
  }
  const key = `points/${part}/${before.id}`
  const old = changes.get(key)
  const moved = movedPoints(frame, part, before, after, old?.kind === 'points' ? old : null)
  if (moved) put(moved)
  else if (old) put({ ...(old as ChangeOf<'points'>), ids: [], by: [] })
}

type About = Pick<ChangeOf<'paint'>, 'part' | 'drawing' | 'shape' | 'of'>

function recordPaint(about: About, was: Ink | Line | null, is: Ink | Line | null, put: (change: Change) => void): void {
  const [a, b] = [was?.paint, is?.paint]
  if (a === b) return
  if (!a || !b || a.kind !== b.kind) refuse('Another kind of paint is')
  if (a.kind === 'flat' && b.kind === 'flat') {
    if (a.colour !== b.colour) put({ kind: 'paint', ...fresh, ...about, stop: null, to: b.colour })
    return
  }
  if ((a.kind !== 'linear' && a.kind !== 'radial') || (b.kind !== 'linear' && b.kind !== 'radial')) refuse('Another picture or pattern is')
  if (a.stops.length !== b.stops.length) refuse('Stops of a gradient that come or go are')
  a.stops.forEach((stop, k) => {
    if (stop.colour !== nth(b.stops, k).colour) put({ kind: 'paint', ...fresh, ...about, stop: k, to: nth(b.stops, k).colour })
  })
}
