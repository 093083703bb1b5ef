/** The naming convention of a puppet: guessing, checking and converting it. */
import type { Part, Puppet } from '../puppet/schema'
import { partsBelow, restBounds } from '../parts/tree'
import { written, type Named } from './match'
import { ownSide, sideWord, wordsOf, type Facing } from './words'
import type { Naming } from './records'
import { likeCase } from '../kernel/sides'
import { nth, sure } from '../kernel/sure'

/** Parts below the root with what matching needs to know of them. */
export function namedParts(puppet: Puppet): Named[] {
  const paths = new Map<string, readonly string[]>([[puppet.root, []]])
  return partsBelow(puppet, puppet.root)
    .slice(1)
    .map((part) => {
      const within = sure(paths.get(sure(part.parent)))
      paths.set(part.id, [...within, part.name])
      let x: number | null | undefined
      return {
        id: part.id,
        name: part.name,
        within,
        // Few names need their place, and a place takes the bounds of all that is in a part.
        get x() {
          if (x === undefined) x = middleOf(puppet, part)
          return x
        },
      }
    })
}

function middleOf(puppet: Puppet, part: Part): number | null {
  const box = restBounds(puppet, part.id)
  return box && (box.minX + box.maxX) / 2 / puppet.canvas.width
}

/**
 * The convention that the names of some parts follow: near and far by their words, left and right by where the parts
 * lie. Null where no name says a side or the places contradict each other.
 */
export function guessNaming(items: readonly Named[]): Naming | null {
  const said = written(items).flatMap((item) => {
    const { side } = wordsOf(item.name)
    return side ? [{ item, side }] : []
  })
  const turned = said.filter((s) => s.side === 'near' || s.side === 'far').length
  if (turned > said.length / 2) return 'near-far'
  const xs = (side: string): number[] => said.flatMap((s) => (s.side === side && s.item.x !== null ? [s.item.x] : []))
  const [left, right] = [xs('left'), xs('right')]
  if (left.length === 0 || right.length === 0) return null
  const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length
  const apart = mean(left) - mean(right)
  if (Math.abs(apart) < 0.01) return null
  return apart > 0 ? 'character-side' : 'viewer-side'
}

/** A name that does not keep to the convention of its puppet. */
export interface NamingProblem {
  readonly part: string
  readonly name: string
  readonly message: string
}

/** Names whose side contradicts where the part lies, or whose words belong to another convention. */
export function checkNaming(puppet: Puppet): NamingProblem[] {
  const items = namedParts(puppet).flatMap((item) => {
    const { side, words } = wordsOf(item.name)
    return side ? [{ ...item, side, key: words.join(' ') }] : []
  })
  const alike = new Map<string, typeof items>()
  for (const item of items) alike.set(item.key, [...(alike.get(item.key) ?? []), item])
  return items.flatMap((item) => {
    const { side } = item
    const turned = side === 'near' || side === 'far'
    if (turned !== (puppet.naming === 'near-far'))
      return [{ part: item.id, name: item.name, message: `says "${side}", but ${WHOSE[puppet.naming]}` }]
    const partner = sure(alike.get(item.key)).find((other) => other.side !== side)
    if (turned || !partner || item.x === null || partner.x === null || Math.abs(item.x - partner.x) < 0.01) return []
    const own = ownSide(side, puppet.naming)
    return (own === 'left') === item.x > partner.x
      ? []
      : [{ part: item.id, name: item.name, message: `lies on the other side of "${partner.name}" than its name says` }]
  })
}

const WHOSE: Readonly<Record<Naming, string>> = {
  'viewer-side': 'left and right are the viewer’s sides here',
  'character-side': 'left and right are the character’s own sides here',
  'near-far': 'limbs are named near and far here',
}

/** A name of one convention in another one; a name without a side stays. Single letters stay single where they can. */
export function convertName(name: string, from: Naming, to: Naming, facing: Facing = 'left'): string {
  return name.replace(/[A-Z]?[a-z]+|[A-Z]+(?![a-z])/g, (piece) => {
    const { side, words } = wordsOf(piece)
    if (!side || words.length > 0) return piece
    const wanted = sideWord(sure(ownSide(side, from, facing)), to, facing)
    if (wanted === side) return piece
    const isLetter = piece.length === 1 && (wanted === 'left' || wanted === 'right')
    return isLetter ? likeCase(nth(wanted, 0), piece) : likeCase(wanted, piece)
  })
}
