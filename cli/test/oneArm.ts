/** One arm of Clatter, for tests of the range test: films take their time. */
import { deleteBone } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { DEMOS } from '@marionette/demo/demos'
import type { Demo } from '@marionette/demo/demo'

export function oneArm(): Demo {
  const { puppet, assets } = DEMOS['clatter']!()
  const others = Object.values(puppet.bones).filter(({ name, parent }) => parent !== null && !/^(Arm|Claw) left$/.test(name))
  const tops = others.filter(({ parent }) => !others.some(({ id }) => id === parent))
  return { puppet: tops.reduce((p, { id }) => run(p, deleteBone, { bone: id, withChildren: true }), puppet), assets }
}
