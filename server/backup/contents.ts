/**
 * A backup: a zip of `library.json` (what is in it), `puppets/<id>.json`, `trash/<id>.json`, `versions/<id>/<n>.json`,
 * `templates/<id>.json` and `assets/<sha256>`. Version 1 had no templates, and of versions only those with a name.
 */
import { z } from 'zod'

const Version = z.object({
  revision: z.number().int().min(1),
  name: z.string().max(200).nullable(),
  pinned: z.string().max(20).nullable().default(null),
  at: z.iso.datetime().optional(),
})

export const Contents = z.object({
  format: z.literal('eager-marionette/library'),
  version: z.union([z.literal(1), z.literal(2)]),
  puppets: z.array(
    z.object({
      id: z.string().regex(/^[A-Za-z0-9_-]{1,64}$/),
      where: z.enum(['puppets', 'trash']),
      deletedAt: z.iso.datetime().nullable().default(null),
      updatedAt: z.iso.datetime().optional(),
      revision: z.number().int().min(1).optional(),
      versions: z.array(Version),
    }),
  ),
  templates: z.array(z.object({ id: z.string().min(1).max(64), name: z.string().max(200) })).default([]),
})
export type Contents = z.infer<typeof Contents>

export const documentFile = (where: 'puppets' | 'trash', id: string): string => `${where}/${id}.json`
export const versionFile = (id: string, revision: number): string => `versions/${id}/${revision}.json`
export const templateFile = (index: number): string => `templates/${index}.json`
export const assetFile = (hash: string): string => `assets/${hash}`
