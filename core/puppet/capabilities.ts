/** All that a puppet can do: the one list of capabilities, in the order in which channels are stored and edits are mended. */
import { alternates } from '../alternates/capability'
import { artwork } from '../artwork/capability'
import { binds } from '../binds/capability'
import { bones } from '../bones/capability'
import { clips } from '../clips/capability'
import { constraints } from '../constraints/capability'
import { controls } from '../controls/capability'
import { cutting } from '../cutting/capability'
import { deformers } from '../deformers/capability'
import { idle } from '../idle/capability'
import { joints } from '../joints/capability'
import type { Capability } from '../kernel/capability'
import { layering } from '../layering/capability'
import { parts } from '../parts/capability'
import { poses } from '../poses/capability'
import { responses } from '../responses/capability'
import { roles } from '../roles/capability'
import { skeleton } from '../skeleton/capability'
import { springs } from '../springs/capability'
import { staging } from '../staging/capability'
import { strides } from '../strides/capability'
import { twins } from '../twins/capability'
import { views } from '../views/capability'
import { puppet } from './capability'

/** Every capability, in the order of the stages of work. */
export const CAPABILITIES: readonly Capability[] = [
  puppet,
  views,
  // Bones come first among what is posed.
  bones,
  parts,
  artwork,
  layering,
  alternates,
  constraints,
  skeleton,
  deformers,
  binds,
  controls,
  responses,
  springs,
  strides,
  idle,
  poses,
  clips,
  joints,
  twins,
  staging,
  roles,
  cutting,
]
