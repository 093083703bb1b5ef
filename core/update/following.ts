/** What came with a new version and nothing moves yet goes with what it lies on, as strangers do when a template is fitted. */
import { mostShared, regionOf, type MultiPolygon } from '../artwork/region'
import { placedDrawings } from '../binds/autoWeights'
import { bindAttached, bindWhole } from '../binds/commands'
import type { Bind } from '../binds/records'
import { bindHolder } from '../binds/tree'
import { boneOf } from '../bones/lookup'
import type { Bone } from '../bones/records'
import { edit, type Edit } from '../kernel/command'
import type { BoneId, PartId } from '../kernel/ids'
import type { Vec } from '../kernel/numbers'
import { sure } from '../kernel/sure'
import { middleOf } from '../maths/geometry/bounds'
import { distanceToPolyline, gapBetween } from '../maths/geometry/polyline'
import { drawingOf, drawnParts, restBounds } from '../parts/tree'
import { partOf } from '../parts/lookup'
import type { Puppet } from '../puppet/schema'
import { meansStill } from '../roles/match'

/** How far from a bound part a new one may lie and still go with it, px. */
const NEAR = 6

interface Host {
  readonly bind: Bind
  readonly region: MultiPolygon
}

/** Edits that bind new parts to what moves the part that they share most area with, or else lie beside. */
export function followEdits(puppet: Puppet, added: readonly PartId[]): Edit[] {
  const loose = added.filter((id) => {
    const part = partOf(puppet, id)
    return part.visible && drawingOf(puppet, part) !== null && !bindHolder(puppet, id) && !meansStill(part.name)
  })
  if (loose.length === 0) return []
  const hosts = hostsIn(puppet, new Set(added))
  return loose.flatMap((id) => {
    const region = regionOf(placedDrawings(puppet, [partOf(puppet, id)]), 1)
    const box = restBounds(puppet, id)
    const host = region.length > 0 && box ? hostOf(region, hosts) : null
    return host ? [bindLike(puppet, id, host.bind, middleOf(sure(box)))] : []
  })
}

function hostsIn(puppet: Puppet, added: ReadonlySet<PartId>): Host[] {
  return drawnParts(puppet, puppet.root).flatMap((part) => {
    const bind = added.has(part.id) || !part.visible ? null : bindHolder(puppet, part.id)?.bind
    return bind ? [{ bind, region: regionOf(placedDrawings(puppet, [part]), 1) }] : []
  })
}

/** The host that shares most area with a region, else the nearest one beside it. */
function hostOf(region: MultiPolygon, hosts: readonly Host[]): Host | null {
  const shared = mostShared(region, hosts)
  if (shared) return shared
  const gaps = hosts.map((host) => ({ host, gap: gapBetween(rimsOf(region), rimsOf(host.region)) }))
  return gaps.filter(({ gap }) => gap <= NEAR).sort((a, b) => a.gap - b.gap)[0]?.host ?? null
}

const rimsOf = (region: MultiPolygon): number[][] => region.flat().map((ring) => ring.flat())

/** A bind as that of a host; of several bones the one that is nearest takes the part along. */
function bindLike(puppet: Puppet, part: PartId, bind: Bind, at: Vec): Edit {
  if (bind.kind === 'attached') return edit(bindAttached, { parts: [part], to: bind.to, how: bind.how })
  return edit(bindWhole, { parts: [part], bone: bind.kind === 'whole' ? bind.bone : nearestBone(puppet, bind.bones, at) })
}

function nearestBone(puppet: Puppet, bones: readonly BoneId[], { x, y }: Vec): BoneId {
  const far = ({ start, end }: Bone): number => distanceToPolyline([start.x, start.y, end.x, end.y], false, x, y)
  return bones.reduce((best, id) => (far(boneOf(puppet, id)) < far(boneOf(puppet, best)) ? id : best))
}
