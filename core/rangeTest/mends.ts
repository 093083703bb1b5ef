/** Mends for what a range test found: each a few edits, or the way to a tool that does it. */
import { bindAttached, setBindMode } from '../binds/commands'
import { setLimits } from '../bones/commands'
import { setControl } from '../controls/commands'
import { edit, type Edit } from '../kernel/command'
import type { JointId } from '../kernel/ids'
import { nth } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import { decidingFault, type RangeFault, type RangeRun, type RangeSample } from './report'

export interface Mend {
  readonly id: 'volume' | 'carry' | 'round' | 'limits' | 'range'
  readonly label: string
  readonly edits: readonly Edit[]
  /** A joint whose ends are to be rounded; null for edits. */
  readonly joint: JointId | null
}

const mend = (id: Mend['id'], label: string, edits: readonly Edit[], joint: JointId | null = null): Mend => ({ id, label, edits, joint })

/** The widest stretch around rest in which all is good; null where it is no stretch, or all of them are. */
export function goodStretch(samples: readonly RangeSample[], rest: number): { from: number; to: number } | null {
  const isGood = ({ faults }: RangeSample): boolean => faults.length === 0
  const middle = samples.reduce((best, { at }, k) => (Math.abs(at - rest) < Math.abs(nth(samples, best).at - rest) ? k : best), 0)
  if (samples.length === 0 || samples.every(isGood) || !isGood(nth(samples, middle))) return null
  let [from, to] = [middle, middle]
  while (from > 0 && isGood(nth(samples, from - 1))) from--
  while (to < samples.length - 1 && isGood(nth(samples, to + 1))) to++
  return from < to ? { from: nth(samples, from).at, to: nth(samples, to).at } : null
}

function limitsMend(puppet: Puppet, { kind, subject, samples }: RangeRun): Mend[] {
  const bone = kind === 'bone' ? puppet.bones[subject.id] : undefined
  const stretch = bone && goodStretch(samples, 0)
  if (!bone || !stretch) return []
  const [first, last] = [nth(samples, 0).at, nth(samples, -1).at]
  // A side on which all is good stays as it is, without limit where it has none.
  const min = stretch.from > first ? stretch.from : bone.limits.min
  const max = stretch.to < last ? stretch.to : bone.limits.max
  const label = `Keep ${bone.name} between ${Math.round(stretch.from)}° and ${Math.round(stretch.to)}°`
  return [mend('limits', label, [edit(setLimits, { bone: bone.id, limits: { min, max } })])]
}

function rangeMend(puppet: Puppet, { kind, subject, samples, channel }: RangeRun): Mend[] {
  const control = kind === 'control' && channel !== null ? puppet.controls.find(({ id }) => id === subject.id) : undefined
  const isUp = channel?.endsWith('/y') ?? false
  const range = isUp ? control?.up : control?.range
  const stretch = range && goodStretch(samples, range.rest)
  if (!control || !range || !stretch || control.symmetric) return []
  const narrowed = { ...range, min: stretch.from, max: stretch.to }
  const changed = isUp ? { ...control, up: narrowed } : { ...control, range: narrowed }
  return [mend('range', `Keep ${control.name} between ${stretch.from} and ${stretch.to}`, [edit(setControl, { control: changed })])]
}

function faultMends(puppet: Puppet, { kind, part, other, joint }: RangeFault): Mend[] {
  const bent = part === null ? undefined : puppet.parts[part]
  const holder = other === null ? undefined : puppet.parts[other]
  const out: Mend[] = []
  if (bent?.bind?.kind === 'blended' && bent.bind.mode === 'linear' && (kind === 'folded' || kind === 'overlap' || kind === 'lost'))
    out.push(mend('volume', `Bend ${bent.name} with its breadth kept`, [edit(setBindMode, { part: bent.id, mode: 'volume' })]))
  if (kind === 'left' && bent && holder)
    out.push(
      mend('carry', `Let ${holder.name} carry ${bent.name}`, [edit(bindAttached, { parts: [bent.id], to: holder.id, how: 'carried' })]),
    )
  if (joint !== null && puppet.joints[joint] && (kind === 'holes' || kind === 'corners' || kind === 'opens'))
    out.push(mend('round', 'Round the ends at the joint', [], joint))
  return out
}

/** Mends for the worst fault of a run, the best first; empty where nobody knows any. */
export function mendsFor(puppet: Puppet, run: RangeRun): Mend[] {
  const fault = decidingFault(run)
  return fault ? [...faultMends(puppet, fault), ...limitsMend(puppet, run), ...rangeMend(puppet, run)] : []
}
