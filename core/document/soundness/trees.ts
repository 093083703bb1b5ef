/** Trees: parts and bones hang from one root each, none from itself, none too deep. Everything else walks them. */
import type { Puppet } from '../schema'
import type { Problem } from './problem'

/** How deep parts may lie in groups: far more than anyone needs, and far less than breaks a walk. */
export const DEEPEST_PART = 1024
/** How many bones may hang one from the other. */
export const DEEPEST_BONE = 1000
/** Channels that a pose may hold. */
export const MOST_POSED = 50_000

interface Node {
  parent: string | null
  children: string[]
}

/** Checks that every node is reached exactly once from the roots, that parents and children agree, and how deep it goes. */
function treeProblems(family: string, nodes: Record<string, Node>, roots: readonly string[], deepest: number): Problem[] {
  const out: Problem[] = []
  const reached = new Set<string>()
  const stack = roots.map((id) => ({ id, parent: null as string | null, depth: 1 }))
  while (stack.length > 0) {
    const { id, parent, depth } = stack.pop()!
    const node = Object.hasOwn(nodes, id) ? nodes[id] : undefined
    const path = `${family}.${id}`
    if (!node) out.push({ path, message: 'is listed but does not exist' })
    else if (reached.has(id)) out.push({ path, message: 'is listed twice' })
    else if (depth > deepest) return [...out, { path, message: `lies more than ${deepest} levels deep` }]
    else {
      reached.add(id)
      if (node.parent !== parent) out.push({ path, message: `names "${node.parent}" as its parent, but is listed under "${parent}"` })
      for (const child of node.children) stack.push({ id: child, parent: id, depth: depth + 1 })
    }
  }
  for (const id of Object.keys(nodes)) if (!reached.has(id)) out.push({ path: `${family}.${id}`, message: 'hangs from nothing' })
  return out
}

/** Breaches of the two trees of a puppet. */
export const treesProblems = ({ parts, root, bones, skeleton }: Puppet): Problem[] => [
  ...treeProblems('parts', parts, [root], DEEPEST_PART),
  ...treeProblems('bones', bones, skeleton, DEEPEST_BONE),
]

/** Twins whose originals are not there, or that are twins of each other in a circle. */
export function twinProblems({ parts }: Puppet): Problem[] {
  const out: Problem[] = []
  const ends = new Set<string>()
  for (const { id, twin } of Object.values(parts)) {
    if (!twin) continue
    const path = `parts.${id}.twin`
    if (!Object.hasOwn(parts, twin.of)) {
      out.push({ path, message: `is the twin of "${twin.of}", which cannot be` })
      continue
    }
    const way: string[] = []
    for (let at: string | undefined = id; at !== undefined && !ends.has(at); at = parts[at]?.twin?.of) {
      if (way.includes(at)) return [...out, { path, message: `is the twin of "${twin.of}", which cannot be` }]
      way.push(at)
    }
    for (const at of way) ends.add(at)
  }
  return out
}
