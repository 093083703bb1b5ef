/** Deformers: cages, bends, pins, in stacks on parts. */
import type { Capability } from '../kernel/capability'
import type { IdAt, RecordKind, Reference } from '../kernel/records'
import type { Part } from '../puppet/schema'
import { deformerChannels, handleChannels } from './channels'
import { deformerChecks } from './checks'
import * as commands from './commands'
import { copyDeformers } from './copy'
import * as mesh from './meshCommands'
import { ownHandles, type Deformer } from './records'
import { deformersInViews } from './stack'
import { shapelessDeformers } from './findings'

/** Ids of deformers of each part; one that a part has in several views is one and the same. */
function* idsInStacks(parts: Iterable<Part>, idsOf: (d: Deformer) => readonly string[]): Generator<IdAt> {
  for (const { id: part, deformers, inViews } of parts) {
    const inOthers = new Set<string>()
    for (const list of [deformers, ...Object.values(inViews).map((own) => own.deformers ?? [])]) {
      const own = list.flatMap(idsOf)
      for (const id of own) if (!inOthers.has(id)) yield { path: `parts.${part}.deformers`, id }
      for (const id of own) inOthers.add(id)
    }
  }
}

const stackedKind = (kind: string, label: string, idsOf: (d: Deformer) => readonly string[]): RecordKind => ({
  ...{ kind, label, field: 'parts', filed: false },
  ids: ({ parts }) => idsInStacks(Object.values(parts), idsOf),
  has: ({ parts }, id) => Object.values(parts).some((part) => deformersInViews(part).some((d) => idsOf(d).includes(id))),
})

const STACKS = ['parts/*/deformers/*', 'parts/*/inViews/*/deformers/*']

const references = STACKS.flatMap((stack): Reference[] => [
  { at: `${stack}/bone`, to: 'bone', says: 'goes along with', gone: { heir: { clear: `${stack}/bone` } } },
  { at: `${stack}/only/*`, to: 'part', says: 'acts on', gone: { drop: `${stack}/only/*`, empty: stack } },
])

/** What deformers add to a puppet. */
export const deformers: Capability = {
  name: 'deformers',
  kinds: [stackedKind('deformer', 'deformer', (d) => [d.id]), stackedKind('handle', 'handle', ownHandles)],
  references,
  checks: deformerChecks,
  copyInside: copyDeformers,
  channels: [deformerChannels, handleChannels],
  findings: [shapelessDeformers],
  commands: [commands, mesh],
}
