/**
 * What shows between the lips. Upper teeth keep to the upper lip and lower teeth to the lower one; a tongue lies on the lower lip.
 * Drawings are stretched between the two, so that no gap opens at the edge that they hang on; pictures and groups are shifted.
 */
import type { PartId } from '../../kernel/ids'
import type { Puppet } from '../../puppet/schema'
import type { Change } from '../../responses/records'
import { restBounds } from '../../parts/tree'
import { throughSpots } from '../outlineMoves'
import { shifted } from '../sliders'
import type { LipMove } from './moves'
import { extentOf, movableDrawing, movedParts } from './moves'
import { depthAt, inMouth, onCanvas, type MouthOutline } from './outline'

/** How far the upper and the lower edge of something inside go down along the mouth, px. */
interface Edges {
  readonly upper: (u: number) => number
  readonly lower: (u: number) => number
}

/** The changes that take the edges of a part along. */
export function betweenLips(puppet: Puppet, part: PartId | null, outline: MouthOutline, { upper, lower }: Edges): Change[] {
  if (part === null || !puppet.parts[part]) return []
  if (!movableDrawing(puppet, part)) return shifted(part, 'y', (upper(0) + lower(0)) / 2)
  const [top, bottom] = extentOf(puppet, part, outline)
  const move = throughSpots((spot) => {
    const { u, v } = inMouth(outline, spot)
    const share = Math.min(1, Math.max(0, (v - top) / (bottom - top)))
    const at = Math.min(1, Math.max(-1, u))
    return onCanvas(outline, [0, (1 - share) * upper(at) + share * lower(at)])
  })
  return movedParts(puppet, [part], move)
}

const downOf =
  (move: LipMove, isLower: boolean) =>
  (u: number): number =>
    move(u, isLower)[1]

/** Share of what teeth reach beyond their lip at rest that one move may use up: several moves act together. */
const RESERVE = 0.5

/**
 * Teeth are the skull's and the jaw's, and stay where they are while a lip goes over them. Where it would go away from them, by more
 * than they reach beyond it, they go along.
 */
export function teethAlong(puppet: Puppet, part: PartId | null, outline: MouthOutline, move: LipMove, isLower: boolean): Change[] {
  if (part === null || !puppet.parts[part]) return []
  const edge = movableDrawing(puppet, part) ? extentOf(puppet, part, outline)[isLower ? 1 : 0] : null
  const run = isLower ? 'lower' : 'upper'
  const away = isLower ? 1 : -1
  const along = (u: number): number => {
    const reserve = edge === null ? 0 : Math.max(0, away * (edge - depthAt(outline, run, u)))
    return away * Math.max(0, away * move(u, isLower)[1] - RESERVE * reserve)
  }
  return betweenLips(puppet, part, outline, { upper: along, lower: along })
}

/** Share of what the lower lip goes down by that the top of a tongue goes along. */
const TOP_OF_TONGUE = 0.48

/** Share of the way up that a tongue goes along when lips close: it stays where it is, and they cover it. */
const STAYS = 0.35

/** A tongue whose lower edge lies on the lower lip. */
export function tongueAlong(puppet: Puppet, part: PartId | null, outline: MouthOutline, move: LipMove): Change[] {
  const lip = downOf(move, true)
  const lower = (u: number): number => (lip(u) < 0 ? STAYS : 1) * lip(u)
  return betweenLips(puppet, part, outline, { upper: (u) => TOP_OF_TONGUE * lower(u), lower })
}

/**
 * Teeth that show by so many px beside the lip that they hang on: their free edge comes out as far, the other stays under the lip.
 * Pictures come out as a whole, as far as they reach under it.
 */
export function teethShown(puppet: Puppet, part: PartId | null, outline: MouthOutline, by: number, isLower: boolean): Change[] {
  if (part === null || !puppet.parts[part]) return []
  const away = isLower ? -1 : 1
  if (!movableDrawing(puppet, part)) return shifted(part, 'y', away * Math.min(by, hiddenOf(puppet, part, outline, isLower)))
  const free = extentOf(puppet, part, outline)[isLower ? 0 : 1]
  const run = isLower ? 'lower' : 'upper'
  const out = (u: number): number => away * (by + Math.max(0, away * (depthAt(outline, run, u) - free)))
  const still = (): number => 0
  return betweenLips(puppet, part, outline, isLower ? { upper: out, lower: still } : { upper: still, lower: out })
}

/** How far a picture of teeth reaches beyond its lip, px. */
function hiddenOf(puppet: Puppet, part: PartId, outline: MouthOutline, isLower: boolean): number {
  const box = restBounds(puppet, part)
  if (!box) return 0
  const { v } = inMouth(outline, { x: outline.middle.x, y: isLower ? box.maxY : box.minY })
  return Math.max(0, isLower ? v - depthAt(outline, 'lower', 0) : depthAt(outline, 'upper', 0) - v)
}

/** A tongue whose tip is raised by so many px. */
export const tongueRaised = (puppet: Puppet, part: PartId | null, outline: MouthOutline, by: number): Change[] =>
  betweenLips(puppet, part, outline, { upper: () => -by, lower: () => (part !== null && movableDrawing(puppet, part) ? 0 : -by) })
