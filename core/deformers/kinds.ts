/** Deformers of any kind, by the table of kinds. */
import { z } from 'zod'
import type { DeformerKind } from './kind'
import type { Shape } from './shape'
import { DEFORMER_KINDS } from './table'

type Kinds = typeof DEFORMER_KINDS
/** A deformer of any kind. */
export type Deformer = { [K in keyof Kinds]: z.infer<Kinds[K]['schema']> }[keyof Kinds]

/** The deformers of one kind. */
export type DeformerOf<K extends Deformer['kind']> = Extract<Deformer, { kind: K }>

const schemas = Object.values(DEFORMER_KINDS).map((kind) => kind.schema) as unknown as [z.core.$ZodTypeDiscriminable]
/** Schema of deformers of all kinds. */
export const Deformer = z.discriminatedUnion('kind', schemas) as unknown as z.ZodType<Deformer>

/** The kind of a deformer. */
export const kindOfDeformer = (d: Deformer): DeformerKind<Deformer> => DEFORMER_KINDS[d.kind] as unknown as DeformerKind<Deformer>

/** Ids of a deformer's handles, in the order in which it stores their places. */
export const handlesOf = (d: Deformer): string[] => kindOfDeformer(d).handles(d)

/** Ids of handles that are filed with a deformer; those of cages follow from the cage's. */
export const ownHandles = (d: Deformer): string[] => (kindOfDeformer(d).filesHandles ? handlesOf(d) : [])

/** What a person calls a handle of a deformer. */
export const handleName = (d: Deformer, at: number): string => kindOfDeformer(d).handleName(d, at)

/** The shape of a deformer, with values of its own. */
export const makeShape = (d: Deformer): Shape => kindOfDeformer(d).shape(d)
