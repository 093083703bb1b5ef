/** Pieces of artwork that hardly belong to their part. */
import { counted, figure } from '../kernel/counted'
import type { Finding, Inspect } from '../kernel/finding'
import { partOf } from '../parts/lookup'

/** Parts that carry pieces of something else, as they were found in pictures of them. */
export const strayPieces: Inspect = (puppet, { strays }) => {
  const carriers = new Set(strays.map((s) => s.part).filter((part) => puppet.parts[part]))
  return [...carriers].map((part): Finding => {
    const { id, name } = partOf(puppet, part)
    const pieces = strays.filter((s) => s.part === part)
    const largest = Math.max(...pieces.map((p) => p.across))
    const [of] = pieces.flatMap((p) => p.of ?? [])
    const what =
      pieces.length === 1
        ? `carries a stray piece of ${figure(largest)} px`
        : `carries ${counted(pieces.length, 'stray piece')} of up to ${figure(largest)} px`
    const message = of === undefined ? `${what}, apart from the rest` : `${what}: ${of} shows the same`
    return { gravity: 1, code: 'stray-piece', bench: 'parts', target: { kind: 'part', id, name }, message }
  })
}
