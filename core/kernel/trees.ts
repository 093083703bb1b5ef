/** Trees of a document: records that name their parents and list their children. Everything else walks them. */
import type { Problem } from './problem'
import { sure } from './sure'

interface Node {
  parent: string | null
  children: string[]
}

/**
 * Checks that every node is reached exactly once from the roots, that parents and children agree, and how deep it goes.
 *
 * @param family name of the field, for messages
 * @param deepest levels that are allowed
 */
export function treeProblems(family: string, nodes: Record<string, Node>, roots: readonly string[], deepest: number): Problem[] {
  const out: Problem[] = []
  const reached = new Set<string>()
  const stack = roots.map((id) => ({ id, parent: null as string | null, depth: 1 }))
  while (stack.length > 0) {
    const { id, parent, depth } = sure(stack.pop())
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
