/** Copies of parts and of what hangs on them, by what all capabilities say of what they name. */
import { produce } from 'immer'
import { pathOf, replaceAt, visitTexts } from '../kernel/documentPaths'
import type { CopyAlong, Copying } from '../kernel/copying'
import { CAPABILITIES } from './capabilities'
import type { Part } from './schema'

/** Where parts name parts and bones, from the part on. The tree itself is left to who copies. */
const NAMED = CAPABILITIES.flatMap((c) => c.references ?? []).flatMap(({ at, to }) =>
  at.startsWith('parts/*/') && (to === 'part' || to === 'bone') ? [{ path: pathOf(at).slice(2), to }] : [],
)

/** A part that names what stands on the copy's side for what it named. */
function renamedPart(part: Part, { renamed }: Copying): Part {
  return produce(part, (draft) => {
    for (const { path, to } of NAMED) visitTexts(part, path, (id, trail) => replaceAt(draft, trail, renamed(to as 'part' | 'bone', id)))
  })
}

/** A copied part, under the id that it has been given, with all that it names and what is inside of it on the copy's side. */
export const copiedPart = (part: Part, copying: Copying): Part =>
  CAPABILITIES.reduce((made, { copyInside }) => copyInside?.(made, copying) ?? made, renamedPart(part, copying))

/** Copies what hangs on what is copied. */
export const copyAlong: CopyAlong = (draft, copying) => {
  for (const capability of CAPABILITIES) capability.copyAlong?.(draft, copying)
}
