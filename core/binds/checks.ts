/** What must hold of binds: weights fit their vertices and sum to one, and nothing hangs on itself. */
import type { Problem } from '../kernel/problem'
import type { Check } from '../kernel/records'
import type { Part, Puppet } from '../puppet/schema'
import { attachCycle } from './order'
import type { Bind } from './records'

/** Binds of all parts, in all views. */
const bindsIn = ({ parts }: Puppet): (readonly [Part, Bind])[] =>
  Object.values(parts).flatMap((part) =>
    [part.bind, ...Object.values(part.inViews).map((own) => own.bind)].flatMap((bind) => (bind ? [[part, bind] as const] : [])),
  )

type Blended = Extract<Bind, { kind: 'blended' }>

/** What was found in weights before: binds that did not change are not gone through again at each edit. */
const known = new WeakMap<Blended, Problem[]>()

function fieldProblems(bind: Blended, path: string): Problem[] {
  let found = known.get(bind)
  if (!found) known.set(bind, (found = findFieldProblems(bind)))
  return found.map(({ message }) => ({ path, message }))
}

function findFieldProblems(bind: Blended): Problem[] {
  const out: Problem[] = []
  const path = ''
  const { field, bones, madeAt } = bind
  const n = field.vertices.length / 2
  if (madeAt.length !== 4 * bones.length) out.push({ path, message: 'does not say where its bones were' })
  if (field.starts.length !== n + 1 || field.starts[n] !== field.bones.length || field.bones.length !== field.weights.length) {
    return [...out, { path, message: 'has weights that do not fit its vertices' }]
  }
  if (field.starts[0] !== 0 || field.starts.some((start, i) => i > 0 && start < field.starts[i - 1]!))
    return [...out, { path, message: 'has weights that are not in order' }]
  if (
    field.vertices.length % 2 !== 0 ||
    field.triangles.length === 0 ||
    field.triangles.length % 3 !== 0 ||
    field.triangles.some((v) => v >= n)
  )
    out.push({ path, message: 'has a triangle with a missing vertex' })
  if (field.bones.some((b) => b >= bones.length)) out.push({ path, message: 'has a weight for a missing bone' })
  for (let i = 0; i < n; i++) {
    let sum = 0
    for (let k = field.starts[i]!; k < field.starts[i + 1]!; k++) sum += field.weights[k]!
    if (Math.abs(sum - 1) > 1e-6) return [...out, { path, message: `has weights at vertex ${i} that sum to ${sum}, not 1` }]
  }
  return out
}

/** What must hold of every bind. */
export const bindChecks: readonly Check[] = [
  {
    stage: 'records',
    needs: ['parts'],
    find: (puppet) =>
      bindsIn(puppet).flatMap(([part, bind]) => (bind.kind === 'blended' ? fieldProblems(bind, `parts.${part.id}.bind`) : [])),
  },
  {
    stage: 'circles',
    needs: ['parts'],
    find(puppet) {
      const attached = attachCycle(puppet)
      return attached === null ? [] : [{ path: `parts.${attached}.bind`, message: 'hangs on itself' }]
    },
  },
]
