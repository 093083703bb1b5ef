/** Findings on responses and controls: what answers with nothing, has lost points, or drives nothing. */
import { pointIds } from '../responses/carryOver'
import { chosenBy, type Response } from '../responses/records'
import type { Puppet } from '../puppet/schema'
import type { Finding, Inspect } from '../kernel/finding'

const finding = (response: Response, code: Finding['code'], message: string): Finding => ({
  ...{ gravity: 4, code, bench: 'shape', message },
  target: { kind: 'response', id: response.id, name: response.name },
})

/** Recorded points that their drawing does not have any more. */
function lostPoints(puppet: Puppet, response: Response): number {
  const known = new Map<string, Set<number>>()
  const idsOf = (drawing: string): Set<number> => {
    const ids = known.get(drawing) ?? pointIds(puppet.drawings[drawing] ?? { shapes: [] })
    known.set(drawing, ids)
    return ids
  }
  return response.stops
    .flatMap((s) => s.changes)
    .reduce((sum, c) => (c.kind === 'points' ? sum + c.ids.filter((id) => !idsOf(c.drawing).has(id)).length : sum), 0)
}

/** Names of responses that choose for the same channel with the same priority: only their order decides. */
function evenClashes(puppet: Puppet, response: Response): string[] {
  const own = chosenBy(response)
  return puppet.responses
    .filter((r) => r.id !== response.id && r.priority === response.priority && [...chosenBy(r)].some((a) => own.has(a)))
    .map((r) => r.name)
}

/** Findings on responses: what answers with nothing, has lost points, or drives nothing. */
export const responseFindings: Inspect = (puppet) => {
  const first = new Set<string>()
  return puppet.responses.flatMap((response) => {
    const out: Finding[] = []
    if (response.stops.every((s) => s.changes.length === 0)) out.push(finding(response, 'response-empty', 'answers with nothing'))
    const lost = lostPoints(puppet, response)
    if (lost > 0)
      out.push(finding(response, 'response-lost-points', `moves ${lost === 1 ? 'a point' : `${lost} points`} that the drawing has no more`))
    const clashes = evenClashes(puppet, response).filter((name) => !first.has(name))
    first.add(response.name)
    if (clashes.length > 0)
      out.push(finding(response, 'response-clash', `chooses for the same as ${clashes.join(', ')}, and neither has priority`))
    return out
  })
}
