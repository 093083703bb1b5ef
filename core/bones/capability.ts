/** Bones: the segments of the skeleton. */
import type { Capability } from '../kernel/capability'
import { treeProblems } from '../kernel/trees'
import { boneChannels } from './channels'
import * as commands from './commands'
import { shapelessBones } from './findings'
import { BONE_KIND } from './tree'

/** How many bones may hang one from the other. */
export const DEEPEST_BONE = 1000

/** What bones add to a puppet. */
export const bones: Capability = {
  name: 'bones',
  kinds: [BONE_KIND],
  checks: [{ stage: 'trees', needs: ['bones', 'skeleton'], find: (p) => treeProblems('bones', p.bones, p.skeleton, DEEPEST_BONE) }],
  channels: [boneChannels],
  findings: [shapelessBones],
  commands: [commands],
}
