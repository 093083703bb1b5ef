/** What is asked for of a mouth, and the sliders that it gets. */
import type { PartId } from '../../kernel/ids'
import type { Edit } from '../../kernel/command'
import type { Change } from '../../responses/records'
import type { Voice } from '../../controls/records'
import { sliderEdits } from '../sliders'

/** The parts of a mouth. */
export interface MouthParts {
  /** The drawing whose closed outline is the mouth, or the line that is a closed one. */
  readonly lips: PartId
  readonly teethUpper: PartId | null
  readonly teethLower: PartId | null
  readonly tongue: PartId | null
  /** Drawings that go along with the corners of the lips: dimples, a moustache. */
  readonly along: readonly PartId[]
  /** What goes down below the lips with them: a shadow, a chin. */
  readonly below: readonly PartId[]
  /** The lower half of a beak, whose upper half are the lips; null for a mouth of flesh. */
  readonly lowerBeak: PartId | null
}

/** Id of what shows between the halves of a beak, by what the ids of its controls begin with. */
export const insideOfBeak = (id: string): PartId => `${id}-inside`

/** What goes down with an open mouth. */
export interface Jaw {
  /** The drawing of the face whose lower part follows. */
  readonly face: PartId
  /** Canvas y of the line through it, and how much of the opening the chin takes, 0 to 1. */
  readonly line: number
  readonly amount: number
}

/** What is to be built for a mouth. */
export interface MouthPlan {
  readonly parts: MouthParts
  readonly jaw: Jaw | null
  /** How far it opens, as a share of its width. */
  readonly opening: number
}

/** A slider of the mouth with what answers to it. */
export interface Slider {
  readonly key: string
  readonly name: string
  readonly voice: Voice | null
  /** Where it rests between 0 and 1; null where it goes to both sides of rest. */
  readonly rest: number | null
  readonly stops: readonly (readonly [at: number, changes: readonly Change[]])[]
}

/** The edits that make sliders of a mouth; those that would move nothing are left out. */
export const slidersMade = (sliders: readonly Slider[], id: string): Edit[] =>
  sliders
    .filter((s) => s.stops.some(([, changes]) => changes.length > 0))
    .flatMap(({ key, name, ...slider }) =>
      sliderEdits({ ...{ id: `${id}-${key}`, name, answer: `Mouth ${name.toLowerCase()}`, group: 'Mouth', colour: 4 }, ...slider }),
    )
