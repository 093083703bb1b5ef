/** Templates: which roles a kind of creature has, its skeleton, and how each bone lies in the artwork. */
import { z } from 'zod'
import { Name, finite } from '../kernel/numbers'
import { CHAIN_COLOURS, Limits } from '../bones/records'
import { RoleKey } from '../roles/records'
import { nth } from '../kernel/sure'

/**
 * A bone and where it lies: in the first of the parts `of` that the puppet has. It begins at the joint with the part of
 * the bone above (or with one of `from`) and ends at the joint with the part of the bone that goes `on`, or where the
 * part's medial line ends. Bones that follow each other within one part divide its medial line by their `share`.
 */
export const TemplateBone = z.object({
  key: z.string().min(1).max(80),
  name: Name,
  parent: z.string().nullable(),
  of: z.array(RoleKey).min(1),
  from: z.array(RoleKey),
  /** Key of the bone that this one reaches to. */
  on: z.string().nullable(),
  share: z.number().positive(),
  /** `along` as above; `centre`: it stands in the middle of its part, which it turns, and points up. */
  lies: z.enum(['along', 'centre']),
  limits: Limits,
  colour: z.number().int().min(1).max(CHAIN_COLOURS),
  /** Start x, y and end x, y on the template's figure, 0 to 100: where it is put if the artwork does not tell. */
  figure: z.tuple([finite, finite, finite, finite]),
  /** Whether the template is of use without it. */
  optional: z.boolean(),
})
export type TemplateBone = z.infer<typeof TemplateBone>

/** Roles, skeleton and targets of one kind of creature. */
export const Template = z.object({
  id: z.string().min(1).max(64),
  name: Name,
  note: z.string().max(300),
  /** Parents before children. */
  bones: z.array(TemplateBone).min(1).max(500),
  /** Parts without a bone of their own, and the bone that carries each. */
  carried: z.array(z.object({ role: RoleKey, bone: z.string() })),
  /** Roles from the bottom of the picture to the top. */
  order: z.array(RoleKey),
})
export type Template = z.infer<typeof Template>

/** Every role that a template knows. */
export function rolesOf(template: Template): string[] {
  return [...new Set([...template.bones.flatMap((b) => b.of), ...template.carried.map((c) => c.role)])]
}

/** Ids of those roles, without sides. */
export function roleIdsOf(template: Template): ReadonlySet<string> {
  let ids = idsOfRoles.get(template)
  if (!ids) {
    ids = new Set(rolesOf(template).map((key) => nth(key.split(':'), 0)))
    idsOfRoles.set(template, ids)
  }
  return ids
}

const idsOfRoles = new WeakMap<Template, ReadonlySet<string>>()
