/** Marlo's controls: turns of head and body, brows, and joints that swell as they bend. */
import { proposedCorrective } from '@marionette/core/responses/correctives'
import { depthsOf, proposedTurn } from '@marionette/core/face/turning'
import type { Change, Puppet, Stop } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { addControl } from '@marionette/core/controls/commands'
import { addResponse } from '@marionette/core/responses/commands'
import { newControl } from '@marionette/core/controls/new'
import { newResponse } from '@marionette/core/responses/new'
import { sure } from '@marionette/core/kernel/sure'

const partNamed = (puppet: Puppet, name: string): string =>
  sure(Object.values(puppet.parts).find((p) => p.name === name && p.id !== puppet.root)).id
const boneNamed = (puppet: Puppet, name: string): string => sure(Object.values(puppet.bones).find((b) => b.name === name)).id

const by = (channel: string, amount: number): Change => ({ kind: 'channel', muted: false, scale: 1, channel, by: amount })

/** A pad that turns the head: features shift by their depth, the far ear goes behind. */
function withHeadTurn(puppet: Puppet): Puppet {
  const group = partNamed(puppet, 'Head')
  const { control, response } = proposedTurn(
    puppet,
    { group, parts: depthsOf(puppet, group), yaw: 24, pitch: 13 },
    'Head turn',
    'marlo-turn',
  )
  return run(run(puppet, addControl, { control: { ...control, group: 'Head' } }), addResponse, { response })
}

/** A slider with a response of stops at its values. */
function withSlider(
  puppet: Puppet,
  id: string,
  name: string,
  group: string,
  colour: number,
  stops: Readonly<Record<string, Change[]>>,
): Puppet {
  const control = { ...newControl(`marlo-${id}`, name), group, colour }
  const response = {
    ...newResponse(`marlo-${id}-answer`, name, 'ruler', [{ kind: 'channel', channel: `control/${control.id}/value` }]),
    stops: Object.entries(stops).map(([at, changes], k): Stop => ({ id: `marlo-${id}-s${k + 1}`, at: [Number(at)], changes })),
  }
  return run(run(puppet, addControl, { control }), addResponse, { response })
}

function withBrows(puppet: Puppet): Puppet {
  const [right, left] = ['Brow right', 'Brow left'].map((name) => partNamed(puppet, name))
  const both = (y: number, turn: number): Change[] => [
    by(`part/${right}/y`, y),
    by(`part/${left}/y`, y),
    by(`part/${right}/angle`, turn),
    by(`part/${left}/angle`, -turn),
  ]
  const raised = withSlider(puppet, 'brows', 'Brows', 'Head', 2, { '-1': both(8, 0), '1': both(-8, 0) })
  return withSlider(raised, 'worry', 'Worry', 'Head', 2, { '-1': both(3, -14), '1': both(-2, 16) })
}

/** The body turns: what lies in front shifts, and the arm of the far side goes behind the jacket. */
function withBodyTurn(puppet: Puppet): Puppet {
  const group = puppet.root
  const { control, response } = proposedTurn(
    puppet,
    { group, parts: depthsOf(puppet, group), yaw: 22, pitch: 0 },
    'Body turn',
    'marlo-body',
  )
  return run(run(puppet, addControl, { control: { ...control, group: 'Body' } }), addResponse, { response })
}

/** Elbows and knees that swell at the back and crease in front. */
function withCorrectives(puppet: Puppet): Puppet {
  return ['Forearm left', 'Forearm right', 'Shin left', 'Shin right'].reduce((p, name, k) => {
    const response = proposedCorrective(p, boneNamed(p, name), `marlo-corrective-${k + 1}`)
    return response ? run(p, addResponse, { response }) : p
  }, puppet)
}

/** The landing cage on a slider of its own. */
function withLanding(puppet: Puppet): Puppet {
  const control = { ...newControl('marlo-landing', 'Landing'), group: 'Body', colour: 3, range: { min: 0, max: 1, rest: 0 }, springs: true }
  const tie = {
    channel: 'deformer/landing/amount',
    axis: 'value' as const,
    from: [0, 1] as [number, number],
    to: [0, 1] as [number, number],
    curve: null,
  }
  return run(puppet, addControl, { control: { ...control, ties: [tie] } })
}

export const withControls = (puppet: Puppet): Puppet => withLanding(withBodyTurn(withBrows(withHeadTurn(withCorrectives(puppet)))))
