/** Questions about pictures: which one a part shows, where it lies, and its outline as a drawing. */
import { mapBounds, type Bounds } from '../maths/geometry/bounds'
import { boundaryLoops } from '../maths/geometry/meshOutline'
import type { Affine } from '../kernel/numbers'
import type { Drawing, Path, Picture } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { pictureBy } from '../artwork/art'
import { nth } from '../kernel/sure'

/** The picture that a part shows in a view (the shown one unless told otherwise), or null. A merged group shows its own. */
export function pictureOf(puppet: Puppet, part: Part, view = puppet.view): Picture | null {
  const id = part.merged ?? part.art[view]
  return id === undefined ? null : (pictureBy(puppet, id) ?? null)
}

/** Where a picture's pixels lie under a map. */
export function pictureBounds({ x, y, width, height, scale }: Picture, map: Affine): Bounds {
  return mapBounds({ minX: x, minY: y, maxX: x + width * scale, maxY: y + height * scale }, map)
}

const outlines = new WeakMap<Picture, Drawing>()

/** The rim of a picture's mesh as a drawing of one black shape: what can be hit, weighed and measured of it. */
export function outlineOf(picture: Picture): Drawing {
  const known = outlines.get(picture)
  if (known) return known
  const made = makeOutline(picture)
  outlines.set(picture, made)
  return made
}

function makeOutline({ id, mesh }: Picture): Drawing {
  const paths = boundaryLoops(mesh.triangles).map((loop): Path => ({
    closed: true,
    ids: loop,
    anchors: loop.flatMap((v) => [nth(mesh.vertices, 2 * v), nth(mesh.vertices, 2 * v + 1)]),
    handles: new Array<number>(4 * loop.length).fill(0),
  }))
  const ink = { paint: { kind: 'flat' as const, colour: '#000000' }, alpha: 1, rule: 'evenodd' as const }
  return { id: id as string, shapes: [{ id: 0, paths, ink, line: null, alpha: 1, lineFirst: false }] }
}
