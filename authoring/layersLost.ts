/** What of the face a file of layers cannot hold, in a sentence. */
import type { Puppet } from '@marionette/core/puppet/schema'

type Held = Pick<Puppet, 'parts' | 'flipbooks'>

const counted = (count: number, one: string, many: string): string[] => (count === 0 ? [] : [`${count} ${count === 1 ? one : many}`])

/** Null where everything goes along. */
export function lostInLayers({ parts, flipbooks }: Held): string | null {
  const all = Object.values(parts)
  const masked = all.filter((p) => p.masks.length > 0).length
  const swaps = all.filter((p) => p.swap !== null).length
  const left = [
    ...counted(masked, 'masked part is stored as it looks', 'masked parts are stored as they look'),
    ...counted(swaps, 'swap becomes a group with its other alternates hidden', 'swaps become groups with their other alternates hidden'),
    ...counted(flipbooks.length, 'flipbook stays behind', 'flipbooks stay behind'),
  ]
  return left.length === 0 ? null : `${left.join(', ')}.`
}
