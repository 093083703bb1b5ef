/** Fitting a template, inside of a worker. */
import { freshId, type PartId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyFit } from '@marionette/core/templates/apply'
import type { Assigned } from '@marionette/core/templates/assign'
import { paintOrder } from '@marionette/core/templates/order'
import { planFit } from '@marionette/core/templates/fit'
import type { Template } from '@marionette/core/templates/template'
import { writtenEdits, type WrittenEdit } from './edits'

export interface FitWork {
  readonly puppet: Puppet
  readonly template: Template
  readonly roles: ReadonlyMap<string, Assigned>
  readonly replace: boolean
  /** Whether parts are put into the template's paint order. */
  readonly reorder: boolean
}

export interface Fitted {
  /** Commands by name with their arguments; functions do not cross the border of a worker. */
  readonly edits: readonly WrittenEdit[]
  readonly bones: number
  readonly bound: number
  readonly byHand: readonly { readonly what: string; readonly why: string }[]
  readonly followers: readonly { readonly part: PartId; readonly on: PartId }[]
}

export function fitTemplate({ puppet, template, roles, replace, reorder }: FitWork, progress: (done: number) => void): Fitted {
  const plan = planFit(puppet, template, roles, (done) => progress(0.5 * done))
  const { edits, failed } = applyFit(puppet, plan, {
    ids: freshId,
    replace,
    ...(reorder && { order: paintOrder(puppet, template, plan.roles) }),
    progress: (done) => progress(0.5 + 0.5 * done),
  })
  return {
    edits: writtenEdits(edits),
    bones: plan.bones.length,
    bound: plan.binds.length + plan.followers.length,
    byHand: [...plan.byHand, ...failed],
    followers: plan.followers,
  }
}
