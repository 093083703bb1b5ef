/** All features of the interface: the one list of them. */
import type { Feature } from '../panels/feature'
import { binds } from './binds/feature'
import { bones } from './bones/feature'
import { clips } from './clips/feature'
import { constraints } from './constraints/feature'
import { controls } from './controls/feature'
import { cutting } from './cutting/feature'
import { deformers } from './deformers/feature'
import { face } from './face/feature'
import { joints } from './joints/feature'
import { layering } from './layering/feature'
import { parts } from './parts/feature'
import { posing } from './posing/feature'
import { puppet } from './puppet/feature'
import { rangeTest } from './rangeTest/feature'
import { responses } from './responses/feature'
import { send } from './send/feature'
import { springs } from './springs/feature'
import { strides } from './strides/feature'
import { staging } from './staging/feature'
import { templates } from './templates/feature'
import { touch } from './touch/feature'
import { twins } from './twins/feature'
import { update } from './update/feature'
import { views } from './views/feature'

export const FEATURES: readonly Feature[] = [
  views,
  cutting,
  touch,
  parts,
  layering,
  bones,
  constraints,
  binds,
  deformers,
  joints,
  twins,
  posing,
  controls,
  responses,
  face,
  clips,
  springs,
  strides,
  rangeTest,
  staging,
  templates,
  update,
  send,
  puppet,
]
