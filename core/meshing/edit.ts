/**
 * Meshes edited by hand: points put in, moved and taken out, edges joined and turned, edges split where it is to be denser.
 *
 * Every edit gives a new mesh whose triangles turn the same way and do not overlap. What would break that is refused with
 * a sentence. New triangles are made Delaunay by flipping edges (Lawson 1977); edges are forced in by flips (Sloan 1993).
 */
import cdt2d from 'cdt2d'
import { EditableMesh, type Mesh } from '../maths/geometry/editableMesh'
import { edgeKey } from '../maths/geometry/meshOutline'

/** Says in a sentence why a mesh cannot be edited so. */
export class MeshError extends Error {}

/** Share of an edge's length within which a new point counts as lying on it. */
const ON_EDGE = 0.08
/** Least area that a moved point leaves a triangle, as a share of what it was. */
const LEAST = 0.02

/** A mesh with one more point, and which point that is. */
export interface AddedPoint {
  readonly mesh: Mesh
  readonly point: number
}

/**
 * Puts a point in: inside a triangle, on an edge, or outside, where the mesh grows to it from the nearest edge. A point
 * that is there already is given back. Throws MeshError where the new triangle would lie over others.
 */
export function addMeshPoint(mesh: Mesh, x: number, y: number): AddedPoint {
  const work = new EditableMesh(mesh)
  for (let t = 0; t < work.triangles.length; t += 3) {
    const [a, b, c] = work.at(t)
    const area = work.turn(a, b, c)
    const parts = [work.turnTo(b, c, x, y), work.turnTo(c, a, x, y), work.turnTo(a, b, x, y)]
    if (area <= 0 || parts.some((p) => p < 0)) continue
    return putInside(work, t, parts.map((p) => p / area) as [number, number, number], x, y)
  }
  return growTo(work, x, y)
}

function putInside(work: EditableMesh, t: number, shares: [number, number, number], x: number, y: number): AddedPoint {
  const corners = work.at(t)
  const full = shares.findIndex((s) => s > 1 - ON_EDGE)
  if (full >= 0) return { mesh: work.result(), point: corners[full]! }
  const flat = shares.findIndex((s) => s < ON_EDGE)
  if (flat >= 0) return { ...splitEdge(work, corners[(flat + 1) % 3]!, corners[(flat + 2) % 3]!, x, y) }
  const [a, b, c] = corners
  const p = work.addPoint(x, y)
  work.replace(t, a, b, p)
  work.add(b, c, p)
  work.add(c, a, p)
  work.legalise([
    [a, b],
    [b, c],
    [c, a],
  ])
  return { mesh: work.result(), point: p }
}

/** Puts a point on the edge a b, at the spot of it that is nearest to x, y. */
function splitEdge(work: EditableMesh, a: number, b: number, x: number, y: number): AddedPoint {
  const [dx, dy] = [work.x(b) - work.x(a), work.y(b) - work.y(a)]
  const s = Math.min(0.95, Math.max(0.05, ((x - work.x(a)) * dx + (y - work.y(a)) * dy) / (dx * dx + dy * dy)))
  const p = work.addPoint(work.x(a) + s * dx, work.y(a) + s * dy)
  const rim: [number, number][] = []
  const sides = [
    [a, b],
    [b, a],
  ].flatMap(([u, v]) => {
    const t = work.triangleOf(u!, v!)
    return t === null ? [] : [{ u: u!, v: v!, t, w: work.apex(u!, v!)! }]
  })
  for (const { u, v, t, w } of sides) {
    work.replace(t, u, p, w)
    work.add(p, v, w)
    rim.push([v, w], [w, u])
  }
  work.legalise(rim)
  return { mesh: work.result(), point: p }
}

function growTo(work: EditableMesh, x: number, y: number): AddedPoint {
  const far = (a: number, b: number): number => {
    const [dx, dy] = [work.x(b) - work.x(a), work.y(b) - work.y(a)]
    const s = Math.min(1, Math.max(0, ((x - work.x(a)) * dx + (y - work.y(a)) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
    return Math.hypot(work.x(a) + s * dx - x, work.y(a) + s * dy - y)
  }
  const border = work.border()
  const near = (v: number, edge: [number, number]): boolean => Math.hypot(work.x(v) - x, work.y(v) - y) < ON_EDGE * work.length(...edge)
  for (const edge of border) {
    const end = edge.find((v) => near(v, edge))
    if (end !== undefined) return { mesh: work.result(), point: end }
  }
  const touched = border.find((edge) => far(...edge) < ON_EDGE * work.length(...edge))
  if (touched) return splitEdge(work, ...touched, x, y)
  const facing = border.filter(([a, b]) => work.turnTo(a, b, x, y) < 0).sort((e, f) => far(...e) - far(...f))
  const p = work.addPoint(x, y)
  const free = facing.find(([a, b]) => !border.some(([c, d]) => work.crosses(a, p, c, d) || work.crosses(b, p, c, d)))
  if (!free) throw new MeshError('There is no room for a point here.')
  work.add(free[1], free[0], p)
  return { mesh: work.result(), point: p }
}

/**
 * Moves points by steps, each as far as its triangles do not turn over.
 *
 * @param moves new places by vertex
 */
export function moveMeshPoints(mesh: Mesh, moves: ReadonlyMap<number, readonly [number, number]>): Mesh {
  const vertices = [...mesh.vertices]
  const share = shareThatFits(mesh, moves)
  for (const [v, [x, y]] of moves) {
    vertices[2 * v]! += share * (x - mesh.vertices[2 * v]!)
    vertices[2 * v + 1]! += share * (y - mesh.vertices[2 * v + 1]!)
  }
  return { vertices, triangles: mesh.triangles }
}

/** The largest share of some moves at which every triangle keeps a little of its area: a quadratic for each triangle. */
function shareThatFits({ vertices, triangles }: Mesh, moves: ReadonlyMap<number, readonly [number, number]>): number {
  let least = 1
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    if (!corners.some((v) => moves.has(v))) continue
    const from = corners.map((v) => [vertices[2 * v]!, vertices[2 * v + 1]!] as const)
    const to = corners.map((v, k) => moves.get(v) ?? from[k]!)
    const areaAt = (s: number): number => {
      const [a, b, c] = from.map(([x, y], k) => [x + s * (to[k]![0] - x), y + s * (to[k]![1] - y)] as const)
      return (b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])
    }
    const sign = Math.sign(areaAt(0)) || 1
    const floor = LEAST * Math.abs(areaAt(0))
    least = Math.min(
      least,
      firstBelow((s) => sign * areaAt(s) - floor),
    )
  }
  return least
}

/** Where a quadratic that begins above zero first comes below it, at most 1. */
function firstBelow(f: (s: number) => number): number {
  const [f0, f1, half] = [f(0), f(1), f(0.5)]
  if (f0 <= 0) return 0
  const a = 2 * (f0 + f1 - 2 * half)
  const b = f1 - f0 - a
  const root = b * b - 4 * a * f0
  if (Math.abs(a) < 1e-12) return b < 0 ? Math.min(1, -f0 / b) : 1
  if (root < 0) return 1
  const roots = [(-b - Math.sqrt(root)) / (2 * a), (-b + Math.sqrt(root)) / (2 * a)].filter((s) => s > 0)
  return Math.min(1, ...roots)
}

/** Takes points out; what they held together is filled again. Throws MeshError where nothing would be left. */
export function deleteMeshPoints(mesh: Mesh, points: Iterable<number>): Mesh {
  const work = new EditableMesh(mesh)
  for (const v of points) for (const chain of chainsAround(work, v)) takeOut(work, v, chain)
  if (work.triangles.length === 0) throw new MeshError('A mesh needs a triangle at least.')
  return work.result()
}

/** Vertices around a point in turn, for each fan of triangles about it; a closed ring repeats its first. */
function chainsAround(work: EditableMesh, v: number): number[][] {
  const next = new Map(work.fan(v).map(({ from, to }) => [from, to]))
  const ends = new Set(next.values())
  const starts = [...next.keys()].filter((u) => !ends.has(u))
  const out: number[][] = []
  while (next.size > 0) {
    const chain = [starts.pop() ?? [...next.keys()][0]!]
    for (let u = next.get(chain[0]!); u !== undefined; u = next.get(u)) {
      next.delete(chain.at(-1)!)
      chain.push(u)
      if (u === chain[0]) break
    }
    next.delete(chain.at(-1)!)
    out.push(chain)
  }
  return out
}

function takeOut(work: EditableMesh, v: number, chain: readonly number[]): void {
  const gone = chain.slice(1).flatMap((to, i) => {
    const t = work.triangleOf(v, chain[i]!)
    return t !== null && work.apex(v, chain[i]!) === to ? [t] : []
  })
  work.remove(gone)
  const isRing = chain[0] === chain.at(-1)
  const rim = isRing ? chain.slice(0, -1) : chain
  if (rim.length < 3) return
  const filling = cdt2d(
    rim.map((u) => [work.x(u), work.y(u)]),
    rim.map((_, i) => [i, (i + 1) % rim.length]),
    { exterior: false },
  )
  const inner: [number, number][] = []
  for (const ear of filling) {
    const [a, b, c] = ear.map((i) => rim[i]!) as [number, number, number]
    const [p, q, r] = work.turn(a, b, c) > 0 ? [a, b, c] : [a, c, b]
    // Beside a rim that curves inwards a triangle may lie where the mesh never was, or is already.
    if (!isRing && [[p, q] as const, [q, r] as const, [r, p] as const].some(([s, t]) => work.triangleOf(s, t) !== null)) continue
    work.add(p, q, r)
    inner.push([p, q], [q, r], [r, p])
  }
  work.legalise(inner)
}

/**
 * Joins two points by an edge: by turning those that it crosses, or outside of the mesh, where both have an edge to a third
 * point, by a triangle. Throws MeshError where a point lies between, or the way leaves the mesh.
 */
export function joinMeshPoints(mesh: Mesh, a: number, b: number): Mesh {
  const work = new EditableMesh(mesh)
  if (a === b || work.hasEdge(a, b)) return mesh
  const near = 1e-6 * work.length(a, b)
  for (let v = 0; v < mesh.vertices.length / 2; v++) {
    if (v === a || v === b || Math.abs(work.turn(a, b, v)) / work.length(a, b) > near) continue
    const [dx, dy] = [work.x(b) - work.x(a), work.y(b) - work.y(a)]
    const s = ((work.x(v) - work.x(a)) * dx + (work.y(v) - work.y(a)) * dy) / (dx * dx + dy * dy)
    if (s > 0 && s < 1) throw new MeshError('Another point lies between the two.')
  }
  if (work.border().some(([c, d]) => work.crosses(a, b, c, d))) throw new MeshError('The way between the two leaves the mesh.')
  const crossed = work.edges().filter(([c, d]) => c < d && work.crosses(a, b, c, d))
  if (crossed.length === 0) return bridge(work, a, b)
  for (let left = 1000 + 50 * crossed.length; crossed.length > 0 && left > 0; left--) {
    const [c, d] = crossed.shift()!
    const [p, q] = [work.apex(c, d)!, work.apex(d, c)!]
    if (!work.flip(c, d)) crossed.push([c, d])
    else if (work.crosses(a, b, p, q)) crossed.push([p, q])
  }
  if (!work.hasEdge(a, b)) throw new MeshError('The two cannot be joined.')
  return work.result()
}

/** Fills the notch between two points of the rim that have an edge to a third one. */
function bridge(work: EditableMesh, a: number, b: number): Mesh {
  const border = work.border()
  for (const [s, m] of border)
    for (const [n, e] of border) {
      if (m !== n || !((s === a && e === b) || (s === b && e === a)) || work.turn(e, m, s) <= 0) continue
      work.add(e, m, s)
      return work.result()
    }
  throw new MeshError('The way between the two leaves the mesh.')
}

/** Takes an edge out: inside it turns into the other diagonal, at the rim its triangle goes. Throws MeshError. */
export function deleteMeshEdge(mesh: Mesh, a: number, b: number): Mesh {
  const work = new EditableMesh(mesh)
  const [one, two] = [work.triangleOf(a, b), work.triangleOf(b, a)]
  if (one === null && two === null) throw new MeshError('There is no such edge.')
  if (one !== null && two !== null) {
    if (!work.flip(a, b)) throw new MeshError('This edge cannot go: the triangles beside it would fold.')
    return work.result()
  }
  if (work.triangles.length === 3) throw new MeshError('A mesh needs a triangle at least.')
  work.remove([one ?? two!])
  return work.result()
}

/** Splits edges in their middle; triangles become two, three or four, so that no point stands on an edge. */
export function splitMeshEdges(mesh: Mesh, edges: ReadonlySet<string>): Mesh {
  const vertices = [...mesh.vertices]
  const middles = new Map<string, number>()
  const middleOf = (a: number, b: number): number | null => {
    const key = edgeKey(a, b)
    if (!edges.has(key)) return null
    const known = middles.get(key)
    if (known !== undefined) return known
    const m = vertices.push((vertices[2 * a]! + vertices[2 * b]!) / 2, (vertices[2 * a + 1]! + vertices[2 * b + 1]!) / 2) / 2 - 1
    middles.set(key, m)
    return m
  }
  const length = (a: number, b: number): number =>
    Math.hypot(vertices[2 * b]! - vertices[2 * a]!, vertices[2 * b + 1]! - vertices[2 * a + 1]!)
  const triangles: number[] = []
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    // Begun at a corner such that the edge after it is split, and the one after that where two are.
    let [a, b, c] = [mesh.triangles[t]!, mesh.triangles[t + 1]!, mesh.triangles[t + 2]!]
    const split = [middleOf(a, b), middleOf(b, c), middleOf(c, a)]
    const count = split.filter((m) => m !== null).length
    const turns = count === 1 ? split.findIndex((m) => m !== null) : count === 2 ? (split.indexOf(null) + 1) % 3 : 0
    for (let k = 0; k < turns; k++) {
      ;[a, b, c] = [b, c, a]
      split.push(split.shift()!)
    }
    const [p, q, r] = split
    if (count === 0) triangles.push(a, b, c)
    else if (count === 1) triangles.push(a, p!, c, p!, b, c)
    else if (count === 3) triangles.push(a, p!, r!, p!, b, q!, r!, q!, c, p!, q!, r!)
    else {
      triangles.push(p!, b, q!)
      if (length(a, q!) < length(p!, c)) triangles.push(a, p!, q!, a, q!, c)
      else triangles.push(a, p!, c, p!, q!, c)
    }
  }
  return { vertices, triangles }
}

/** Edges of a mesh as keys, each once; those between some points alone where they are given. */
export function meshEdges({ triangles }: Mesh, among?: ReadonlySet<number>): Set<string> {
  const out = new Set<string>()
  triangles.forEach((a, i) => {
    const b = triangles[i % 3 === 2 ? i - 2 : i + 1]!
    if (!among || (among.has(a) && among.has(b))) out.add(edgeKey(a, b))
  })
  return out
}
