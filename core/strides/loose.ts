/** What goes along with a body that walks though no bone moves it: its shadow, what lies on it. */
import type { BoneTable } from '../bones/table'
import { familyOf, fieldAt, slotOf, type Slots } from '../kernel/slots'
import { restBounds } from '../parts/tree'
import type { Puppet } from '../puppet/schema'

/** Broader than so many times the skeleton it is a background, which stays. */
const BROAD = 2

/** Topmost parts that no bone moves, and in which none moves anything; scenery stands still. */
function unmoved({ parts, root, stage }: Puppet): string[] {
  const still = new Set(stage.scenery.map(({ part }) => part))
  const isBound = (id: string): boolean => parts[id]?.bind !== null || parts[id].children.some(isBound)
  const topmost = (id: string): string[] => {
    const part = parts[id]
    if (!part || still.has(id) || part.bind !== null) return []
    return isBound(id) ? part.children.flatMap(topmost) : [id]
  }
  return (parts[root]?.children ?? []).flatMap(topmost)
}

/** Slots of the places along x of what goes along: what is drawn where the skeleton is, and is no broader than such a body. */
export function loosePlaces(puppet: Puppet, bones: BoneTable, slots: Slots): Int32Array {
  const xs = [...bones.start, ...bones.end].filter((_, k) => k % 2 === 0)
  const [left, right] = [Math.min(...xs), Math.max(...xs)]
  const goesAlong = (id: string): boolean => {
    const box = restBounds(puppet, id)
    const middle = box ? (box.minX + box.maxX) / 2 : Infinity
    return box !== null && middle >= left && middle <= right && box.maxX - box.minX <= BROAD * (right - left)
  }
  const x = fieldAt(slots, 'part', 'x')
  const { index } = familyOf(slots, 'part')
  return Int32Array.from(unmoved(puppet).filter(goesAlong), (id) => slotOf(slots, 'part', index.get(id)!) + x)
}
