/** Taking stray pieces out of artwork. */
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { changeArt } from '@marionette/core/joints/commands'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Drawing, Picture, Puppet } from '@marionette/core/puppet/schema'
import { partOf } from '@marionette/core/parts/lookup'
import { cutArt, type AssetBytes } from './cut'

/** A piece of a part, in the part's own space. */
export interface Scrap {
  readonly part: string
  readonly view: string
  readonly area: Area
}

/** Edits that take pieces out of their parts, and the pictures that come of it. What would leave nothing of a part stays. */
export function withoutScraps(
  puppet: Puppet,
  scraps: readonly Scrap[],
  assets: AssetBytes,
): { edits: Edit[]; assets: Map<string, Uint8Array> } {
  const made = new Map<string, Uint8Array>()
  const byArt = new Map<string, Area>()
  for (const { part, view, area } of scraps) {
    const art = partOf(puppet, part).art[view]
    if (art === undefined) continue
    byArt.set(art, { paths: [...(byArt.get(art)?.paths ?? []), ...area.paths], rule: 'nonzero' })
  }
  const drawings: Drawing[] = []
  const pictures: Picture[] = []
  for (const [art, area] of byArt) {
    const { piece, rest, assets: cut } = cutArt(puppet, art, area, `${art}-scrap`, assets)
    if (!piece || !rest) continue
    if ('drawing' in rest) drawings.push(rest.drawing)
    else {
      pictures.push(rest.picture)
      const bytes = cut.get(rest.picture.asset)
      if (bytes) made.set(rest.picture.asset, bytes)
    }
  }
  return { edits: drawings.length + pictures.length > 0 ? [edit(changeArt, { drawings, pictures })] : [], assets: made }
}
