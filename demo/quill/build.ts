/** Quill, fitted by the bird template through the same commands that the interface uses. */
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { renamePuppet, setNaming, setNote } from '@marionette/core/puppet/puppetCommands'
import { applyFit } from '@marionette/core/templates/apply'
import { assignRoles } from '@marionette/core/templates/assign'
import { BIRD } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { readPuppetFile } from '@marionette/formats/read'
import { withCaps, withJoints } from '../joints'
import { withFace } from './face'
import { withNeckOnPath, withPinnedWings } from '../soften'
import type { Joint } from '@marionette/core/joints/records'
import type { Demo } from '../demo'
import { recordOf } from '@marionette/core/kernel/sure'

/** A heron's wing opens and folds no further than this. */
const WING_LIMITS = { min: -75, max: 75 }

/** Feet were painted without room to turn. */
const isFoot = ({ under, over }: Joint, { parts }: Puppet): boolean => [under, over].some((id) => /^foot/i.test(recordOf(parts, id).name))

/** Builds the puppet from the bytes of quill.ora; always the same document. */
export function buildQuill(openRaster: Uint8Array): Demo {
  const read = readPuppetFile(openRaster, 'quill.ora', { ids: sequentialIds('quill') })
  let puppet = run(read.puppet, renamePuppet, { name: 'Quill' })
  puppet = run(puppet, setNote, { note: 'The heron at the counter' })
  // Quill is seen from the side: limbs are near and far.
  puppet = run(puppet, setNaming, { naming: 'near-far' })
  const plan = planFit(puppet, BIRD, assignRoles(puppet, BIRD).roles)
  const fitted = applyFit(puppet, plan, { ids: sequentialIds('quill-rig') }).puppet
  const folded = Object.values(fitted.bones)
    .filter((b) => /^wing/i.test(b.name))
    .reduce((p, b) => run(p, setLimits, { bone: b.id, limits: WING_LIMITS }), fitted)
  const jointed = withJoints(folded, 'quill', /^(wing|thigh|shin|foot)/i)
  const softened = withPinnedWings(withNeckOnPath(jointed))
  const capped = withCaps({ puppet: softened, assets: read.assets }, isFoot)
  return { ...capped, puppet: withFace(capped.puppet) }
}
