/** Merging a group, inside of a worker. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { mergeToPicture, type Merged } from '@marionette/authoring/merge'
import { loadSkia } from '../skia/loadSkia'

export type { Merged } from '@marionette/authoring/merge'

export const mergedPicture = async (
  puppet: Puppet,
  part: string,
  assets: ReadonlyMap<string, Uint8Array>,
  scale: number,
  id: string,
): Promise<Merged> => mergeToPicture(await loadSkia(), puppet, part, scale, id, (hash) => assets.get(hash))
