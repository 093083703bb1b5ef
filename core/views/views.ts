/**
 * Views: one puppet seen from several sides.
 *
 * A puppet is written as it is in the view that is shown; what parts, bones and joints have of their own in the other
 * views is kept aside. Showing another view swaps the two, so that nothing else has to know of views.
 */
import { viewChannel } from './channels'
import type { ViewId } from '../kernel/ids'
import type { Part, PartInView, Puppet } from '../puppet/schema'
import type { Target } from '../constraints/records'
import type { Bone } from '../bones/records'
import type { Joint } from '../joints/records'
import { nth } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** The view that a pose shows. */
export function shownView(puppet: Puppet, pose: Readonly<Record<string, number>> = puppet.pose): ViewId {
  const at = Math.round(pose[viewChannel(puppet)] ?? 0)
  return nth(puppet.views, Math.min(puppet.views.length - 1, Math.max(0, at))).id
}

/** The value of the view channel that shows a view. */
export const viewValue = (puppet: Puppet, view: ViewId): number => puppet.views.findIndex((v) => v.id === view)

const seen = new WeakMap<Puppet, Map<ViewId, Puppet>>()

/** The puppet written as it is in a view; the same object where that is the shown one. The pose is left as it is. */
export function inView(puppet: Puppet, view: ViewId): Puppet {
  if (view === puppet.view) return puppet
  const known = seen.get(puppet) ?? new Map<ViewId, Puppet>()
  seen.set(puppet, known)
  let made = known.get(view)
  if (!made) known.set(view, (made = { ...puppet, view, ...swapped(puppet, view) }))
  return made
}

/** Parts, bones, joints and targets as they are in another view, with what they were until now kept aside. */
function swapped(puppet: Puppet, view: ViewId): Pick<Puppet, 'parts' | 'bones' | 'joints' | 'targets'> {
  const { view: old, views } = puppet
  const all = <T extends { id: string }>(records: Record<string, T>, swap: (record: T) => T): Record<string, T> =>
    Object.fromEntries(Object.values(records).map((r) => [r.id, swap(r)]))
  /** Every other view keeps what it has; those that had nothing of their own keep what they looked like. */
  const aside = <V>(known: Record<ViewId, V>, now: V): Record<ViewId, V> =>
    Object.fromEntries(views.filter((v) => v.id !== view).map(({ id }) => [id, id === old ? now : (known[id] ?? now)]))
  const bone = (b: Bone): Bone => {
    const now = { start: b.start, end: b.end }
    return { ...b, ...(b.inViews[view] ?? now), inViews: aside(b.inViews, now) }
  }
  const joint = (j: Joint): Joint => {
    const now = { at: j.at, radius: j.radius }
    return { ...j, ...(j.inViews[view] ?? now), inViews: aside(j.inViews, now) }
  }
  const target = (t: Target): Target => ({ ...t, at: t.inViews[view]?.at ?? t.at, inViews: aside(t.inViews, { at: t.at }) })
  const order = ordersOf(puppet)
  const part = (p: Part): Part => {
    const now: PartInView = {
      pivot: p.pivot,
      home: p.home,
      order: order(p),
      ...(p.bind?.kind === 'blended' && { bind: p.bind }),
      ...(hasDeformers(p) && { deformers: p.deformers }),
    }
    const { pivot, home, bind, deformers } = p.inViews[view] ?? now
    return {
      ...p,
      pivot,
      home,
      bind: bind ?? p.bind,
      deformers: deformers ?? p.deformers,
      children: childrenIn(puppet, p, view),
      inViews: aside(p.inViews, now),
    }
  }
  return {
    parts: all(puppet.parts, part),
    bones: all(puppet.bones, bone),
    joints: all(puppet.joints, joint),
    targets: all(puppet.targets, target),
  }
}

/** Whether a part has deformers in any view: none in the shown one may be its own there, too. */
const hasDeformers = (p: Part): boolean => p.deformers.length > 0 || Object.values(p.inViews).some((own) => own.deformers !== undefined)

function ordersOf(puppet: Puppet): (part: Part) => number {
  const at = new Map<string, number>()
  for (const { children } of Object.values(puppet.parts)) children.forEach((id, i) => at.set(id, i))
  return (part) => at.get(part.id) ?? 0
}

/** Children of a part in the order that they have in another view; what came later stays beside what it was put on. */
function childrenIn(puppet: Puppet, part: Part, view: ViewId): string[] {
  let below = -1
  const ranked = part.children.map((id) => {
    below = partOf(puppet, id).inViews[view]?.order ?? below
    return { id, order: below }
  })
  return ranked.sort((a, b) => a.order - b.order).map((r) => r.id)
}
