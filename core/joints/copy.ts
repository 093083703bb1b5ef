/** Joints that go along with parts: between two that are copied, or between one that is and one that stays. */
import type { CopyAlong } from '../kernel/copying'
import { mapped } from '../kernel/mapped'
import type { Joint } from './records'

/** Twins and mirror images have the joints of their originals; a plain copy beside its original has none. */
export const copyJoints: CopyAlong = (puppet, { source, isCopied, renamed, at, prefix }) => {
  let next = 0
  for (const joint of Object.values(source.joints)) {
    if (!isCopied('part', joint.under) && !isCopied('part', joint.over)) continue
    const id = `${prefix}-joint-${++next}`
    const [under, over] = [renamed('part', joint.under), renamed('part', joint.over)]
    const disc = (d: Pick<Joint, 'at' | 'radius'>): Pick<Joint, 'at' | 'radius'> => ({ at: at(d.at), radius: d.radius })
    puppet.joints[id] = { id, under, over, ...disc(joint), inViews: mapped(joint.inViews, disc) }
  }
}
