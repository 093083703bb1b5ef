/** Springs made into keys. */
import type { Edit } from '../kernel/command'
import type { Puppet } from '../puppet/schema'
import { springAmount } from '../springs/channels'
import { springOf } from '../springs/commands'
import { bakedBone, bakedEdits, type BakeOptions } from './bake'

/** Edits after which a group of springs plays from keys: of turns, and of lengths where they are drawn out. */
export function bakeSpringsEdits(puppet: Puppet, options: BakeOptions & { readonly spring: string }): Edit[] {
  const { name, bones, stretch } = springOf(puppet, options.spring)
  const channels = bones.flatMap((bone) => [bakedBone(bone, 'angle'), ...(stretch === 0 ? [] : [bakedBone(bone, 'length')])])
  return bakedEdits(puppet, options, name, springAmount(options.spring), channels)
}
