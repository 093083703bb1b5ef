/**
 * What follows for controls, responses and kept poses when a puppet was edited: they lose what is not there any more, recorded
 * points go along with edits of their drawing, and nothing may answer to itself.
 */
import { answerCircle } from '../document/answering'
import { channelOf } from '../document/channels'
import type { Change, Control, Input, InputSpot, Puppet, Response } from '../document/schema'
import { carriedOver, pointIds } from './carryOver'

/** What names channels, and loses them with what they belong to. */
export const ANSWERS = ['controls', 'responses', 'poses', 'flipbooks', 'cues'] as const
type Answer = (typeof ANSWERS)[number]

/** Whether anything answers, or is kept to be used again. */
const hasAnswers = (puppet: Puppet): boolean => ANSWERS.some((field) => puppet[field].length > 0)

const WATCHED = ['parts', 'bones', 'targets', 'constraints', 'controls', 'responses', 'drawings'] as const

/** Whether an edit touched anything that answers depend on. */
export const touchesAnswers = (before: Puppet, after: Puppet): boolean =>
  hasAnswers(after) && WATCHED.some((field) => before[field] !== after[field])

/** The circle in which things would answer to each other; null where there is none. */
export const circleOf = (puppet: Puppet): string | null =>
  puppet.responses.length + puppet.controls.length > 0 ? answerCircle(puppet) : null

/** Controls, responses and poses as they are after an edit; the same where nothing was lost. */
export function keptAnswers(before: Puppet, after: Puppet): Pick<Puppet, Answer> {
  const controls = keptAll(after.controls, (c) => keptControl(after, c))
  const known = controls === after.controls ? after : { ...after, controls }
  const responses = keptAll(after.responses, (r) => keptResponse(before, known, r))
  const poses = keptAll(after.poses, (pose) => {
    const values = Object.entries(pose.values).filter(([address]) => channelOf(known, address))
    return values.length === Object.keys(pose.values).length ? pose : { ...pose, values: Object.fromEntries(values) }
  })
  const flipbooks = keptAll(after.flipbooks, (f) => (channelOf(known, f.channel) ? f : null))
  const cues = keptAll(after.cues, (c) => (channelOf(known, c.channel) ? c : null))
  return { controls, responses, poses, flipbooks, cues }
}

/** A list without those that are gone; the same list where all are as they were. */
function keptAll<T>(list: readonly T[], keep: (item: T) => T | null): T[] {
  const kept = list.flatMap((item) => keep(item) ?? [])
  return kept.length === list.length && kept.every((item, i) => item === list[i]) ? (list as T[]) : kept
}

function keptControl(puppet: Puppet, control: Control): Control | null {
  if (control.bone !== null && !puppet.bones[control.bone]) return null
  const ties = keptAll(control.ties, (tie) => (channelOf(puppet, tie.channel) ? tie : null))
  const isAdrift = control.place.on === 'stage' && control.place.part !== null && !puppet.parts[control.place.part]
  if (ties === control.ties && !isAdrift) return control
  return { ...control, ties, ...(isAdrift && { place: { on: 'shelf' } }) }
}

function keptResponse(before: Puppet, after: Puppet, response: Response): Response | null {
  if (!response.inputs.every((input) => isHeard(after, input))) return null
  const stops = keptAll(response.stops, (stop) => {
    const changes = keptAll(stop.changes, (change) => keptChange(before, after, change))
    return changes === stop.changes ? stop : { ...stop, changes }
  })
  return stops === response.stops ? response : { ...response, stops }
}

export function isHeard(puppet: Puppet, input: Input): boolean {
  const isThere = (spot: InputSpot): boolean => ('bone' in spot ? puppet.bones[spot.bone] : puppet.targets[spot.target]) !== undefined
  if (input.kind === 'channel') return channelOf(puppet, input.channel) !== null
  return input.kind === 'speed' ? puppet.bones[input.bone] !== undefined : isThere(input.from) && isThere(input.to)
}

function keptChange(before: Puppet, after: Puppet, change: Change): Change | null {
  if (change.kind === 'channel' || change.kind === 'choice') return channelOf(after, change.channel) ? change : null
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
  const [was, is] = [before.drawings[change.drawing], after.drawings[after.parts[change.part]!.art[view ?? ''] ?? '']]
  return was && is ? carriedOver(change, was, is, 'places') : null
}
