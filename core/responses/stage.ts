/**
 * Controls and responses in the evaluation. They answer to the pose, and bones are posed by it: those that listen to where bones end up act
 * once they are posed, and bones that are moved after that are posed again.
 */
import { poseBones, type ConstraintsRig } from '../constraints/stage'
import type { Moment, Stage } from '../kernel/stage'
import type { DrawingsRig } from '../placement/bendStage'
import type { PartsRig } from '../placement/partsStage'
import { compileResponses, type CompiledResponses } from './compile'
import type { Responding, ResponsesFrame } from './frame'
import { writePaintOverrides } from './paintOverrides'

/** Responses of a rig. */
export interface ResponsesRig {
  readonly responses: CompiledResponses
}

type Needs = ConstraintsRig & DrawingsRig & PartsRig

/** Inputs of one response at most, and room for a tie. */
const MOST_INPUTS = 8

/** Compiles responses and makes the buffers in which they add up. */
export const responsesStage: Stage<Needs, ResponsesRig, Responding, ResponsesFrame> = {
  name: 'responses',
  after: ['slots', 'bones', 'constraints', 'drawings'],
  reads: ['responses', 'controls', 'targets', 'constraints'],
  compile: (puppet, { slots, bones, constraints, drawings, parts }) => ({
    responses: compileResponses({ puppet, slots, bones, constraints, drawings, parts }),
  }),
  buffers: ({ responses: answers, bones, restPose }) => ({
    values: new Float64Array(answers.size),
    paintOverrides: new Float32Array(4 * answers.paintOverrides.length),
    speeds: new Float64Array(bones.ids.length),
    memory: new Int32Array(answers.most).fill(-1),
    inputValues: new Float64Array(MOST_INPUTS),
    ranks: new Float64Array(restPose.length).fill(-Infinity),
  }),
}

/** Lets responses answer to the pose, before and after bones were moved. */
export const answeringStage: Stage<Needs & ResponsesRig, object, Responding, object> = { name: 'answering', run: answerPose }

function answerPose(rig: Needs & ResponsesRig, frame: Responding, _: Float64Array, { simulation }: Moment): void {
  const { values: answers, ranks, speeds } = frame
  const { list, chosen, paintOverrides: looks } = rig.responses
  if (simulation?.speeds) speeds.set(simulation.speeds)
  else speeds.fill(0)
  for (let k = 0; k < looks.length; k++) if (looks[k]!.kind === 'width') answers[looks[k]!.base] = 1
  for (let k = 0; k < chosen.length; k++) ranks[chosen[k]!] = -Infinity
  let arePosed = false
  for (let k = 0; k < list.length; k++) {
    const one = list[k]!
    if (one.isLate && !arePosed) poseBones(rig, answers, frame)
    arePosed ||= one.isLate
    one.act(frame)
    if (one.movesBones) arePosed = false
  }
  if (!arePosed) poseBones(rig, answers, frame)
  if (looks.length > 0) writePaintOverrides(looks, answers, frame.paintOverrides)
}
