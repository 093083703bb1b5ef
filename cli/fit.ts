/** `rig fit IN --template NAME --out ARCHIVE [--json]`: a bound skeleton in one step. */
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyFit } from '@marionette/core/templates/apply'
import { assignRoles } from '@marionette/core/templates/assign'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { Template } from '@marionette/core/templates/template'
import { guessNaming, namedParts } from '@marionette/core/roles/naming'
import { roleLabel } from '@marionette/core/roles/roles'
import type { ReadPuppet } from '@marionette/formats/read'
import { Failure } from './failure'
import { readInput, readJson } from './files'
import { partOf } from '@marionette/core/parts/lookup'

/** A template that comes with the program, by name, or one from a JSON file. */
function templateOf(name: string): Template {
  const known = TEMPLATES.find((t) => t.id === name || t.name.toLowerCase() === name.toLowerCase())
  if (known) return known
  if (!name.endsWith('.json'))
    throw new Failure(`there is no template "${name}"; there is ${TEMPLATES.map((t) => t.id).join(', ')}, or a file ending in .json`)
  const parsed = Template.safeParse(readJson(name))
  if (!parsed.success)
    throw new Failure(`${name}: this is no template (${parsed.error.issues[0]?.path.join('.')}: ${parsed.error.issues[0]?.message})`)
  return parsed.data
}

export interface Fitted extends ReadPuppet {
  readonly report: string
}

export async function fit(input: string, templateName: string, json: boolean): Promise<Fitted> {
  const template = templateOf(templateName)
  const read = await readInput(input)
  const puppet: Puppet = { ...read.puppet, naming: guessNaming(namedParts(read.puppet)) ?? read.puppet.naming }
  const assignment = assignRoles(puppet, template)
  const plan = planFit(puppet, template, assignment.roles)
  if (plan.bones.length === 0) throw new Failure(`${input}: nothing in it plays a role of the template "${template.name}"`)
  const fitted = applyFit(puppet, plan, { ids: sequentialIds('fit'), replace: true })
  const byHand = [...plan.byHand, ...fitted.failed]
  const nameOf = (part: string): string => partOf(puppet, part).name
  if (json) {
    const report = {
      template: template.id,
      naming: puppet.naming,
      bones: plan.bones.map(({ key, name, parent, part, start, end, startBy, endBy }) => ({
        key,
        name,
        parent,
        part: part && nameOf(part),
        start,
        end,
        startBy,
        endBy,
      })),
      roles: [...assignment.roles].map(([role, { part, certainty, doubt, rivals }]) => ({
        role,
        part: nameOf(part),
        certainty,
        doubt,
        rivals: rivals.map(nameOf),
      })),
      followers: plan.followers.map(({ part, bone, on }) => ({ part: nameOf(part), bone, on: nameOf(on) })),
      missing: assignment.missing,
      byHand,
    }
    return { ...read, puppet: fitted.puppet, report: JSON.stringify(report, null, 2) }
  }
  const rivals = [...assignment.roles].filter(([, a]) => a.rivals.length > 0)
  const lines = [
    `${plan.bones.length} bones placed, ${plan.binds.length + plan.followers.length} parts bound`,
    ...plan.bones.map(
      (b) => `bone     ${b.name} ${b.part ? `in "${nameOf(b.part)}"` : 'in no part'}, start by ${b.startBy}, end by ${b.endBy}`,
    ),
    ...plan.followers.map((f) => `follows  "${nameOf(f.part)}" goes with "${nameOf(f.on)}"`),
    ...rivals.map(
      ([role, a]) => `twice    ${roleLabel(role)}: "${nameOf(a.part)}" was taken, not ${a.rivals.map((r) => `"${nameOf(r)}"`).join(', ')}`,
    ),
    ...byHand.map(({ what, why }) => `by hand  ${what}: ${why}`),
  ]
  return { ...read, puppet: fitted.puppet, report: lines.join('\n') }
}
