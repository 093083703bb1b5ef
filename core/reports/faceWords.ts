/** What is wrong with a face in an expression, in words. */
import type { FaceFinding } from './expressions'
import type { Puppet } from '../puppet/schema'

/** A finding in words. */
export function findingWords(puppet: Pick<Puppet, 'parts'>, finding: FaceFinding): string {
  const name = (id: string): string => puppet.parts[id]?.name ?? 'a part'
  switch (finding.kind) {
    case 'nothing':
      return 'Does nothing'
    case 'collides':
      return `${name(finding.a)} runs into ${name(finding.b)}`
    case 'leaves-mask':
      return `${name(finding.part)} leaves its mask`
    case 'kink':
      return `${name(finding.part)} has a corner that it has not at rest`
    case 'leaves-face':
      return `${name(finding.part)} goes beyond ${name(finding.face)}`
    case 'stays-open':
      return `${name(finding.part)} should be closed, and stays open`
    case 'teeth-apart':
      return `${name(finding.part)} leaves the lip that it hangs on`
    case 'line-apart':
      return `${name(finding.part)} leaves ${name(finding.from)}`
  }
}

/** The parts that a finding is about. */
export function partsOfFinding(finding: FaceFinding): string[] {
  switch (finding.kind) {
    case 'nothing':
      return []
    case 'collides':
      return [finding.a, finding.b]
    case 'leaves-face':
      return [finding.part, finding.face]
    case 'line-apart':
      return [finding.part, finding.from]
    case 'leaves-mask':
    case 'kink':
    case 'stays-open':
    case 'teeth-apart':
      return [finding.part]
  }
}
