/** Names that say a side. */
import type { Named } from './channel'
import { nth } from './sure'

/** Pairs of words for sides; each stands for the other on the other side. */
const PAIRS: readonly (readonly [string, string])[] = [
  ['left', 'right'],
  ['near', 'far'],
  ['l', 'r'],
]

const other = new Map(PAIRS.flatMap(([a, b]) => [[a, b] as const, [b, a] as const]))

/**
 * The name on the other side: `Upper arm left` becomes `Upper arm right`, `hand_L` becomes `hand_R`. Words count when
 * they stand alone between spaces, points, dashes, underscores or a change of capitals. Null where no side is said.
 */
export function otherSide(name: string): string | null {
  let isChanged = false
  const out = name.replace(/[A-Z]?[a-z]+|[A-Z]+(?![a-z])/g, (word) => {
    const swapped = other.get(word.toLowerCase())
    if (swapped === undefined) return word
    isChanged = true
    return likeCase(swapped, word)
  })
  return isChanged ? out : null
}

/** A word written as another one is: LEFT, Left or left. */
export function likeCase(word: string, model: string): string {
  if (model === model.toUpperCase() && model.length > 1) return word.toUpperCase()
  return model[0] === nth(model, 0).toUpperCase() ? nth(word, 0).toUpperCase() + word.slice(1) : word
}

/** The thing on the other side; its own id where it has no counterpart. */
export function counterpart(list: readonly Named[], id: string): string {
  const own = list.find((n) => n.id === id)
  const name = own && otherSide(own.name)
  return (name && list.find((n) => n.name === name)?.id) ?? id
}
