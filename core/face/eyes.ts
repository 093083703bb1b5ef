/**
 * Building eyes that look and close: irises that show only in the white and follow a pad or a point within an area of their own, lids that
 * come down, eyes that cross and squint, and a blink that goes by itself.
 */
import type { ControlId } from '../kernel/ids'
import { controlChannel } from '../controls/records'
import type { Flipbook } from '../alternates/records'
import type { Puppet } from '../puppet/schema'
import { drawingOf, restBounds } from '../parts/tree'
import { setMasks } from '../layering/commands'
import { setFlipbook } from '../alternates/commands'
import { crossing, gazeAim, gazePad } from './gaze'
import { closing, heightsOf, lidChoice, squinting } from './lids'
import { widestOutline } from './outlineMoves'
import { madeAnew } from './anew'
import { partChannel } from '../parts/channels'
import { sliderEdits, type AnsweredSlider } from './sliders'
import { edit, type Edit } from '../kernel/command'
import type { EyeParts } from './eyeParts'
import { partOf } from '../parts/lookup'

/** What is to be built for the eyes. */
export interface EyesPlan {
  readonly eyes: readonly EyeParts[]
  /** How far irises go, as a share of the room that the white leaves them; more lets them go under its rim. */
  readonly reach: number
  /** Seconds from blink to blink. */
  readonly every: number
  /** Whether a pad tells where they look, or a target on the stage that they aim at. */
  readonly gaze: 'pad' | 'aim'
}

/** Why an eye cannot be built of its parts, in a sentence; null where it can. */
export function eyeProblem(puppet: Puppet, { white, iris, lid, area }: EyeParts): string | null {
  if (!restBounds(puppet, white) || !restBounds(puppet, iris)) return 'An eye needs a white and an iris that show something.'
  if (area !== null && !restBounds(puppet, area)) return 'The area of a gaze has to have a size.'
  if (lid === null) return null
  const part = partOf(puppet, lid)
  if (part.swap) return heightsOf(puppet, lid).length > 1 ? null : 'No alternate of the lid is lower than the one that shows at rest.'
  const drawing = drawingOf(puppet, part)
  if (part.content.kind !== 'drawing' || !drawing || !widestOutline(drawing))
    return 'A lid has to be a drawing with a closed outline, so that its edge can come down, or alternates of several heights.'
  return null
}

/** The eyes that were built, by what the ids of their controls begin with; null where there are none. */
export function builtEyes({ responses }: Pick<Puppet, 'responses'>, eyes: readonly Pick<EyeParts, 'iris'>[]): string | null {
  const isMoved = (channel: string): boolean => eyes.some(({ iris }) => channel === partChannel(iris, 'x'))
  const gaze = responses.find((r) => r.stops.some((s) => s.changes.some((c) => c.kind === 'channel' && isMoved(c.channel))))
  return /^(.+)-(gaze|aim)-answer$/.exec(gaze?.id ?? '')?.[1] ?? null
}

/** The edits that build eyes, or build them anew: masks, where they look, sliders for lids, squint and crossing, and a blink by itself. */
export function eyesEdits(puppet: Puppet, { eyes, reach, every, gaze }: EyesPlan, id: string): Edit[] {
  const masks = eyes.map(({ white, iris }) =>
    edit(setMasks, {
      part: iris,
      masks: [...partOf(puppet, iris).masks, { shape: white, keep: 'inside' as const, by: 'area' as const }],
    }),
  )
  const looks = gaze === 'pad' ? gazePad(puppet, eyes, reach, id) : gazeAim(puppet, eyes, reach, id)
  const lids = [...lidEdits(puppet, eyes, every, id), ...squintEdits(puppet, eyes, id)]
  return madeAnew(puppet, [...masks, ...looks, ...crossing(puppet, eyes, reach, id), ...lids])
}

/** A slider of the eyes from rest to 1. */
const eyeSlider = (id: ControlId, name: string, answer: string, stops: AnsweredSlider['stops']): Edit[] =>
  sliderEdits({ id, name, answer, stops, ...{ group: 'Eyes', colour: 6, rest: 0, between: 'even' } })

function lidEdits(puppet: Puppet, eyes: readonly EyeParts[], every: number, id: string): Edit[] {
  const heights = eyes.flatMap(({ lid }) => (lid === null ? [] : heightsOf(puppet, lid).map((h) => ({ lid, ...h }))))
  const closed = eyes.flatMap((eye) => closing(puppet, eye))
  const places = [...new Set([...heights.map((h) => h.at), ...(closed.length > 0 ? [1] : [])])].filter((at) => at > 0).sort((a, b) => a - b)
  if (places.length === 0) return []
  const stops = places.map((at) => {
    const chosen = heights.filter((h) => h.at === at).map((h) => lidChoice(h.lid, h.alternate))
    return [at, at === 1 ? [...closed, ...chosen] : chosen] as const
  })
  const lids = `${id}-lids`
  const channel = controlChannel({ id: lids, bone: null })
  const blink: Flipbook = {
    ...{ id: `${id}-blink`, name: 'Blink', channel, pictures: [0.6, 1, 1, 0.5], hold: 0.04, way: 'forward', ends: 'once' },
    timer: { every, vary: 0.6, seed: 1 },
  }
  return [...eyeSlider(lids, 'Lids', 'Lids close', stops), edit(setFlipbook, { flipbook: blink })]
}

function squintEdits(puppet: Puppet, eyes: readonly EyeParts[], id: string): Edit[] {
  const changes = eyes.flatMap((eye) => squinting(puppet, eye))
  return changes.length === 0 ? [] : eyeSlider(`${id}-squint`, 'Squint', 'Eyes squint', [[1, changes]])
}
