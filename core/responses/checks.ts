/** What must hold of responses: stops have places of their own and change each thing once, and nothing answers to itself. */
import type { Problem } from '../kernel/problem'
import type { Check } from '../kernel/records'
import { responseCircle } from './order'
import { changeKey, type Response } from './records'

function stopProblems({ id, stops }: Response): Problem[] {
  const out: Problem[] = []
  const path = `responses.${id}`
  const ids = new Set(stops.map((s) => s.id))
  if (ids.size < stops.length) out.push({ path, message: 'has two stops of one id' })
  if (new Set(stops.map((s) => s.at.join(' '))).size < stops.length) out.push({ path, message: 'has two stops in one place' })
  for (const { id: stop, changes } of stops)
    if (new Set(changes.map(changeKey)).size < changes.length)
      out.push({ path: `${path}.stops.${stop}`, message: 'changes one thing twice' })
  return out
}

/** What must hold of every response. */
export const responseChecks: readonly Check[] = [
  { stage: 'records', needs: ['responses'], find: ({ responses }) => responses.flatMap(stopProblems) },
  // What moves what can only be followed where constraints have an order.
  {
    stage: 'last',
    needs: ['responses', 'controls', 'constraints', 'bones', 'targets'],
    find(puppet) {
      const circle = puppet.responses.length + puppet.controls.length > 0 ? responseCircle(puppet) : null
      return circle === null ? [] : [{ path: 'responses', message: circle, sentence: circle }]
    },
  },
]
