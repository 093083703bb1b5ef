/** Puppets whose controls and bones are answered to, for tests. */
import { controlChannel } from '../controls/records'
import type { Change, ChangeOf, Response } from '../responses/records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { autoWeights } from '../binds/autoWeights'
import { bindBlended, bindWhole } from '../binds/commands'
import { run } from '../puppet/edit'
import { addControl } from '../controls/commands'
import { addResponse } from '../responses/commands'
import { changeArt } from '../joints/commands'
import { compile } from '../puppet/compile'
import { evaluate, poseRig, makeFrame, writePose } from '../puppet/evaluate'
import { slotOfAddress } from '../kernel/slots'
import { armPuppet } from './puppets'
import { newControl } from '../controls/new'
import { newResponse } from '../responses/new'
import type { Frame } from '../puppet/frame'

const arms = new Map<string, Puppet>()

/** The arm with its sleeve bent by two bones, its hand on the palm, and sliders `a`, `b`, `c` and a pad `p`. */
export function answeringArm(mode: 'volume' | 'linear' = 'volume'): Puppet {
  const arm = arms.get(mode) ?? makeArm(mode)
  arms.set(mode, arm)
  return arm
}

function makeArm(mode: 'volume' | 'linear'): Puppet {
  let puppet = armPuppet()
  const field = autoWeights(puppet, 'sleeve', ['upper', 'lower'])
  puppet = run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field, mode })
  puppet = run(puppet, bindWhole, { parts: ['hand'], bone: 'palm' })
  for (const id of ['a', 'b', 'c']) puppet = run(puppet, addControl, { control: newControl(id, id.toUpperCase()) })
  return run(puppet, addControl, { control: newControl('p', 'Pad', 'pad') })
}

export const sliderInput = (id: string) => ({ kind: 'channel' as const, channel: `control/${id}/value` })

export const by = (channel: string, amount: number): Change => ({ kind: 'channel', muted: false, scale: 1, channel, by: amount })
export const to = (channel: string, value: number): Change => ({ kind: 'choice', muted: false, scale: 1, channel, to: value })
export const moved = (part: string, drawing: string, ids: number[], all: number[]): ChangeOf<'points'> => ({
  ...{ kind: 'points', muted: false, scale: 1, part, drawing, ids },
  by: all,
})

/** A response to a slider with stops at values. */
export function ruler(
  id: string,
  slider: string,
  stops: Readonly<Record<string, readonly Change[]>>,
  more: Partial<Response> = {},
): Response {
  return {
    ...newResponse(id, id, 'ruler', [sliderInput(slider)]),
    between: 'even',
    stops: Object.entries(stops).map(([at, changes]) => ({
      id: `at${at.replace('-', 'm').replace('.', '_')}`,
      at: [Number(at)],
      changes: [...changes],
    })),
    ...more,
  }
}

export const withResponses = (puppet: Puppet, ...responses: Response[]): Puppet =>
  responses.reduce((p, response) => run(p, addResponse, { response }), puppet)

/** A frame of a puppet with controls by their ids, and channels by addresses. */
export function answered(puppet: Puppet, values: Readonly<Record<string, number>>): Frame {
  const address = (key: string): string => {
    const control = puppet.controls.find((c) => c.id === key)
    return control ? controlChannel(control) : key
  }
  return poseRig(compile(puppet), Object.fromEntries(Object.entries(values).map(([key, v]) => [address(key), v])))
}

/** Evaluates poses one after the other in one frame. */
export function answering(puppet: Puppet): (values: Readonly<Record<string, number>>) => Frame {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose.length)
  return (values) => evaluate(rig, writePose(rig, values, pose), frame)
}

export const seen = (frame: Frame, address: string): number => frame.values[slotOfAddress(frame.rig.slots, address)]!

/** The drawing of a part with curved handles, so that anchors and handles both have something to keep. */
export function curvy(puppet: Puppet, drawing: string): Puppet {
  const source = puppet.drawings[drawing]!
  const rounded: Drawing = {
    ...source,
    shapes: source.shapes.map((s) => ({
      ...s,
      paths: s.paths.map((p) => ({ ...p, handles: p.handles.map((_, k) => ((k * 7) % 11) - 5) })),
    })),
  }
  return run(puppet, changeArt, { drawings: [rounded], pictures: [] })
}
