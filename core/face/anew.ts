/** Building what was built already: controls and what answers to them are changed under their ids, so that poses keep what they say. */
import { addControl, setControl } from '../controls/commands'
import { addTarget } from '../constraints/commands'
import type { Puppet } from '../puppet/schema'
import { edit, type Edit } from '../kernel/command'
import { setMasks } from '../layering/commands'
import { addResponse, setResponse } from '../responses/commands'
import { partOf } from '../parts/lookup'

/** The arguments of an edit, where it is one of a command. */
const argumentsOf = <Args>(
  { command, args }: Edit,
  of: { readonly name: string; readonly schema: { parse(args: unknown): Args } },
): Args | null => (command.name === of.name ? of.schema.parse(args) : null)

/**
 * Edits of a builder for a puppet that may have been through it: what is there under an id is changed instead of added, controls keep
 * their names and colours, and a mask is set once.
 */
export const madeAnew = (puppet: Puppet, edits: readonly Edit[]): Edit[] =>
  edits.flatMap((one): Edit[] => {
    const control = argumentsOf(one, addControl)?.control
    const known = puppet.controls.find((c) => c.id === control?.id)
    if (control && known) return [edit(setControl, { control: { ...known, range: control.range, voice: control.voice } })]
    const response = argumentsOf(one, addResponse)?.response
    if (response && puppet.responses.some((r) => r.id === response.id)) return [edit(setResponse, { response })]
    const target = argumentsOf(one, addTarget)
    if (target && puppet.targets[target.id]) return []
    const masked = argumentsOf(one, setMasks)
    if (masked && puppet.parts[masked.part]) return isNewMask(puppet, masked) ? [one] : []
    return [one]
  })

/** Whether masks say anything that a part does not have yet. */
const isNewMask = (puppet: Puppet, { part, masks }: { part: string; masks: readonly { shape: string; keep: string }[] }): boolean => {
  const has = partOf(puppet, part).masks
  return masks.slice(has.length).some((mask) => !has.some((m) => m.shape === mask.shape && m.keep === mask.keep))
}
