/**
 * The medial line of a region: its longest inner way, midway between its sides.
 *
 * The outline, closely sampled, is triangulated without points inside; the middles of inner edges, joined through the
 * triangles, form the chordal axis (Prasad 1997). The longest shortest way through it is the line; at both ends it goes
 * on to the rim.
 */
import type { Ring } from '../maths/geometry/polygons'
import type { Vec } from '../kernel/numbers'
import { edgeKey, innerEdges } from '../maths/geometry/meshOutline'
import { stepped } from './mesh'
import { triangulateRegion } from './refine'
import { simplifyRegion, type MultiPolygon } from './region'

/** Samples around the outline that the line is made from. */
const SAMPLES = 260

interface Graph {
  /** A node lies on an inner edge, or at a corner of the rim. */
  readonly nodes: Vec[]
  readonly links: Map<number, number>[]
}

/** @returns points along the line, px; empty for an empty region. Of several pieces the one with the longest line counts. */
export function medialLine(region: MultiPolygon): Vec[] {
  const graph = chordalAxis(region)
  let best: Vec[] = []
  let longest = 0
  const seen = new Set<number>()
  graph.nodes.forEach((_, start) => {
    if (seen.has(start)) return
    const first = distances(graph, start)
    for (const node of first.keys()) seen.add(node)
    const from = farthest(first)
    const ways = new Map<number, number>()
    const second = distances(graph, from, ways)
    const to = farthest(second)
    if (second.get(to)! <= longest) return
    longest = second.get(to)!
    best = []
    for (let at: number | undefined = to; at !== undefined; at = ways.get(at)) best.push(graph.nodes[at]!)
  })
  return best
}

function chordalAxis(region: MultiPolygon): Graph {
  const length = region.flat().reduce((sum, ring) => sum + perimeter(ring), 0)
  const spacing = Math.max(length / SAMPLES, 1e-6)
  const loops = simplifyRegion(region, spacing * 0.1)
    .flat()
    .map((ring) => stepped(ring, spacing))
  const graph: Graph = { nodes: [], links: [] }
  if (loops.length === 0) return graph
  const { vertices, triangles } = triangulateRegion(loops)
  const nodeOf = new Map<string, number>()
  const node = (key: string, x: number, y: number): number => {
    let at = nodeOf.get(key)
    if (at === undefined) {
      at = graph.nodes.push({ x, y }) - 1
      graph.links.push(new Map())
      nodeOf.set(key, at)
    }
    return at
  }
  const inner = innerEdges(triangles)
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    const edges = [0, 1, 2].map((k) => [corners[k]!, corners[(k + 1) % 3]!] as const).filter(([a, b]) => inner.has(edgeKey(a, b)))
    const ends = edges.map(([a, b]) =>
      node(edgeKey(a, b), (vertices[2 * a]! + vertices[2 * b]!) / 2, (vertices[2 * a + 1]! + vertices[2 * b + 1]!) / 2),
    )
    // A triangle at an end of the region has one inner edge; from there the line runs to the corner opposite.
    if (edges.length === 1) {
      const tip = corners.find((v) => v !== edges[0]![0] && v !== edges[0]![1])!
      ends.push(node(`tip ${tip}`, vertices[2 * tip]!, vertices[2 * tip + 1]!))
    }
    ends.forEach((a, i) => ends.slice(i + 1).forEach((b) => link(graph, a, b)))
  }
  return graph
}

const perimeter = (ring: Ring): number => ring.slice(1).reduce((s, p, i) => s + Math.hypot(p[0] - ring[i]![0], p[1] - ring[i]![1]), 0)

function link(graph: Graph, a: number, b: number): void {
  const [p, q] = [graph.nodes[a]!, graph.nodes[b]!]
  const length = Math.hypot(p.x - q.x, p.y - q.y)
  graph.links[a]!.set(b, length)
  graph.links[b]!.set(a, length)
}

/** Shortest ways from a node (Dijkstra 1959); `ways` receives the node before each. Graphs here have some hundred nodes. */
function distances(graph: Graph, start: number, ways?: Map<number, number>): Map<number, number> {
  const done = new Map<number, number>()
  const open = new Map([[start, 0]])
  while (open.size > 0) {
    const [at, length] = [...open].reduce((a, b) => (b[1] < a[1] ? b : a))
    open.delete(at)
    done.set(at, length)
    for (const [next, step] of graph.links[at]!) {
      if (done.has(next) || (open.get(next) ?? Infinity) <= length + step) continue
      open.set(next, length + step)
      ways?.set(next, at)
    }
  }
  return done
}

const farthest = (found: ReadonlyMap<number, number>): number => [...found].reduce((a, b) => (b[1] > a[1] ? b : a))[0]
