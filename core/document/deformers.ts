/** Deformers: cages, bends, pins. They stand in a stack on a part and act on all that is in it. */
import { z } from 'zod'
import { Box } from './artwork'
import { count, finite, Name, positiveOrZero, Vec } from './basics'
import { BoneId, DeformerId, HandleId, PartId } from './ids'

const common = {
  id: DeformerId,
  name: Name,
  /** Before bones it acts in the part's own space, after them on what the bones have made of it. */
  when: z.enum(['before', 'after']),
  /** Acting after bones it goes along with this bone, or stays where it is on the canvas. */
  bone: BoneId.nullable(),
  /** At rest; channels pose both. */
  on: z.boolean(),
  amount: finite,
  /** The parts in its own that it acts on, each with all that is in it; everything where null. */
  only: z.array(PartId).min(1).max(500).nullable(),
}

/**
 * A lattice of `columns` by `rows` cells over a box, turned by `angle` degrees about its middle. `form`
 * [2 (columns + 1) (rows + 1)] moves its points, row by row from the top, in px of the lattice before it is turned.
 */
export const Cage = z
  .object({
    kind: z.literal('cage'),
    ...common,
    box: Box,
    angle: finite,
    columns: z.number().int().min(1).max(24),
    rows: z.number().int().min(1).max(24),
    smooth: z.boolean(),
    form: z.array(finite),
  })
  .refine((c) => c.form.length === 2 * (c.columns + 1) * (c.rows + 1), 'the form of a cage holds two numbers for each of its points')
export type Cage = z.infer<typeof Cage>

/** A curve through points; what lies along it bends with it. */
export const Bend = z.object({
  kind: z.literal('bend'),
  ...common,
  points: z
    .array(z.object({ id: HandleId, at: Vec }))
    .min(2)
    .max(64),
  /** Whether what lies along the curve is drawn out with it, or keeps its length from the first point on. */
  stretch: z.boolean(),
  /** Ends at which the curve keeps the direction that it has at rest. */
  holdStart: z.boolean(),
  holdEnd: z.boolean(),
})
export type Bend = z.infer<typeof Bend>

/** Holds or moves a spot, or, as a splint, a stretch from `at` to `end` that stays rigid. */
export const Pin = z.object({
  id: HandleId,
  kind: z.enum(['pin', 'splint']),
  at: Vec,
  end: Vec.nullable(),
  /** Whether it stays where it is put; a splint that is not held is moved by the others. */
  held: z.boolean(),
  /** Whether what is around it turns and grows with it, or only goes along. */
  turns: z.boolean(),
  /** How far it takes hold, px of the part's own space. */
  radius: positiveOrZero,
  /** Where a shape folds over itself, what is near a greater depth is painted over what is near a lesser. */
  depth: finite,
})
export type Pin = z.infer<typeof Pin>

/**
 * Pins and splints in a mesh: `vertices` [2n] of the part's own space, `triangles` [3t], `stiffness` [n] how many
 * times stiffer than the rest it is there.
 */
export const Pins = z.object({
  kind: z.literal('pins'),
  ...common,
  vertices: z.array(finite),
  triangles: z.array(count),
  stiffness: z.array(z.number().min(0.01).max(100)),
  pins: z.array(Pin).max(200),
})
export type Pins = z.infer<typeof Pins>

export const Deformer = z.discriminatedUnion('kind', [Cage, Bend, Pins])
export type Deformer = z.infer<typeof Deformer>
export type DeformerOf<K extends Deformer['kind']> = Extract<Deformer, { kind: K }>

/** A form of cages to use again: moves of its points as shares of the box, row by row. */
export const CagePreset = z
  .object({
    name: Name,
    columns: z.number().int().min(1).max(24),
    rows: z.number().int().min(1).max(24),
    form: z.array(finite),
  })
  .refine((c) => c.form.length === 2 * (c.columns + 1) * (c.rows + 1), 'the form of a cage holds two numbers for each of its points')
export type CagePreset = z.infer<typeof CagePreset>

/** Id of the handle at a point of a cage's lattice. */
export const cageHandle = (cage: string, column: number, row: number): HandleId => `${cage}.${column}.${row}`

/** Ids of a deformer's handles, in the order in which it stores their places. */
export function handlesOf(d: Deformer): HandleId[] {
  if (d.kind === 'bend') return d.points.map((p) => p.id)
  if (d.kind === 'pins') return d.pins.map((p) => p.id)
  return Array.from({ length: (d.columns + 1) * (d.rows + 1) }, (_, k) =>
    cageHandle(d.id, k % (d.columns + 1), Math.floor(k / (d.columns + 1))),
  )
}

/** What a person calls a handle of a deformer. */
export function handleName(d: Deformer, at: number): string {
  if (d.kind === 'cage') return `${d.name}, point ${at + 1}`
  if (d.kind === 'bend') return `${d.name}, point ${at + 1}`
  return `${d.name}, ${d.pins[at]!.kind} ${at + 1}`
}
