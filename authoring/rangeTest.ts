/**
 * The range test: a puppet is put through all that it can do, and looked at. Forms and contacts are measured on the frame
 * (core/rangeTest), joints in pictures of them (core/reports/sweep), faces as the board of the face looks at them.
 */
import type { CanvasKit } from 'canvaskit-wasm'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import { jointTurn } from '@marionette/core/joints/turn'
import type { Joint } from '@marionette/core/joints/records'
import type { PartId } from '@marionette/core/kernel/ids'
import { recordOf } from '@marionette/core/kernel/sure'
import { restBounds } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, poseRig, writePose } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Puppet } from '@marionette/core/puppet/schema'
import { ContactWatch } from '@marionette/core/rangeTest/contacts'
import { FormWatch } from '@marionette/core/rangeTest/forms'
import { FAULT_WORDS, gradeOf, isTold, severityOf, type FaultKind } from '@marionette/core/rangeTest/grades'
import { farthestMove, jumpBetween } from '@marionette/core/rangeTest/jumps'
import {
  finishedRun,
  runKey,
  worseFirst,
  type RangeFault,
  type RangeReport,
  type RangeRun,
  type RangeSample,
} from '@marionette/core/rangeTest/report'
import { rangeRuns, type Run, type TriedPose, type Values } from '@marionette/core/rangeTest/runs'
import { findingWords, partsOfFinding } from '@marionette/core/reports/faceWords'
import { openedOf, readRest, type JointRest } from '@marionette/core/reports/sweep'
import { worstFaults } from '@marionette/core/reports/sweepGrade'
import { inView } from '@marionette/core/views/views'
import { Painter } from '@marionette/render/painter'
import type { AssetSource } from '@marionette/render/textures'
import { checkExpressions } from './expressions'
import { JointLooker } from './jointLooker'
import { sweepJoint } from './sweep'

export interface RangeOptions {
  readonly assets?: AssetSource | undefined
  /** Random poses; 200 without it. */
  readonly poses?: number
  readonly seed?: number
  /** Runs to be tried, by `runKey`; all of them without it. */
  readonly only?: readonly string[] | undefined
  readonly progress?: (done: number, said: string) => void
}

/** Sides of the pictures in which joints are looked at: turned through their limits, and in poses of everything. */
const TURNED = 160
const FOLLOWED = 56

/** Runs a puppet through everything, in each of its views. */
export function rangeTest(CK: CanvasKit, puppet: Puppet, options: RangeOptions = {}): RangeReport {
  const { poses = 200, seed = 1, only, progress } = options
  const views = puppet.views.filter(({ id }) => restBounds(inView(puppet, id), puppet.root) !== null)
  const runs = views.flatMap(({ id, name }, v) => {
    const seen = inView(puppet, id)
    const shown = views.length > 1 ? name : ''
    const planned = rangeRuns(seen, { poses, seed }).filter((run) => !only || only.includes(runKey({ id: run.id, view: shown })))
    const tester = new Tester(CK, seen, facesOf(CK, seen, planned, options.assets), options.assets)
    const count = planned.reduce((sum, run) => sum + run.poses.length, 0)
    let done = 0
    const step = (run: Run): void => progress?.((v + ++done / count) / views.length, run.name)
    try {
      return planned.map((run) => tester.run(run, shown, () => step(run)))
    } finally {
      tester.dispose()
    }
  })
  const tried = runs.reduce((sum, { samples }) => sum + samples.length, 0)
  return { puppet: puppet.name, poses: tried, runs: [...runs].sort(worseFirst) }
}

/** What is wrong with kept moods and sounds, by the runs that show them. */
function facesOf(CK: CanvasKit, puppet: Puppet, runs: readonly Run[], assets: AssetSource | undefined): Map<string, Found[]> {
  const kept = new Map(puppet.poses.map((pose) => [pose.id, pose]))
  const expressions = runs.flatMap((run) => {
    const pose = run.kind === 'expression' ? kept.get(run.subject.id) : undefined
    const isClosed = pose?.face === 'mbp'
    return pose ? [{ id: run.id, values: pose.values, isStill: isClosed || pose.face === 'rest', isClosed }] : []
  })
  return new Map(
    checkExpressions(CK, puppet, expressions, { assets }).map(({ id, findings }) => [
      id,
      findings.map((finding): Found => {
        const [part, other] = partsOfFinding(finding)
        return { kind: 'face', amount: 1, part, other, words: findingWords(puppet, finding) }
      }),
    ]),
  )
}

interface WatchedJoint {
  readonly joint: Joint
  readonly turns: string
  readonly looker: JointLooker
  readonly rest: JointRest
}

/** Measures of one pose. */
interface Found {
  readonly kind: FaultKind
  readonly amount: number
  readonly part?: PartId | undefined
  readonly other?: PartId | undefined
  readonly joint?: string | undefined
  /** For a fault of which its words are all that there is to say. */
  readonly words?: string
}

/** Puts a puppet into poses and measures them. */
class Tester {
  private readonly rig: Rig
  private readonly pose: Float64Array
  private readonly frames: readonly [Frame, Frame, Frame, Frame]
  private readonly forms: FormWatch
  private readonly contacts: ContactWatch
  private readonly joints: readonly WatchedJoint[]
  private readonly painter: Painter
  private readonly height: number

  constructor(
    private readonly CK: CanvasKit,
    private readonly puppet: Puppet,
    private readonly faces: ReadonlyMap<string, readonly Found[]>,
    private readonly assets: AssetSource | undefined,
  ) {
    const rig = (this.rig = compile(puppet))
    this.pose = new Float64Array(rig.restPose.length)
    this.frames = [makeFrame(rig), makeFrame(rig), makeFrame(rig), makeFrame(rig)]
    const rest = poseRig(rig, {})
    this.forms = new FormWatch(rest)
    this.contacts = new ContactWatch(rest)
    this.painter = new Painter(CK, assets, 'quick')
    const box = restBounds(puppet, puppet.root)
    this.height = box ? Math.max(1, box.maxY - box.minY) : puppet.canvas.height
    const isShown = ({ under, over }: Joint): boolean => [under, over].every((part) => restBounds(puppet, part) !== null)
    this.joints = Object.values(puppet.joints)
      .filter(isShown)
      .map((joint) => {
        const looker = new JointLooker(CK, puppet, joint, FOLLOWED, LINE_THRESHOLD, assets)
        return { joint, turns: jointTurn(puppet, joint).address, looker, rest: readRest(looker.look({})) }
      })
  }

  run(run: Run, view: string, step: () => void): RangeRun {
    const turned = this.turned(run)
    const samples = run.poses.map((pose, k): RangeSample => {
      const frame = this.at(pose.values, 3)
      const { found, area } = this.measure(frame, run)
      const motion = this.motion(run, k, frame)
      step()
      const all = [...found, ...(turned[k] ?? []), ...(this.faces.get(run.id) ?? []), ...motion.found]
      return this.sample(run, pose, all, area, motion.speed)
    })
    return finishedRun(run, view, samples)
  }

  dispose(): void {
    for (const { looker } of this.joints) looker.dispose()
    this.painter.dispose()
  }

  private at(values: Values, into: 0 | 1 | 2 | 3): Frame {
    evaluate(this.rig, writePose(this.rig, values, this.pose), this.frames[into])
    return this.frames[into]
  }

  /** What is measured on a frame, and the smallest share of its area that anything has left. */
  private measure(frame: Frame, run: Run): { found: Found[]; area: number } {
    const forms = this.forms.measure(frame)
    const found = [
      ...forms.flatMap(({ part, folded, overlap, area }): Found[] => [
        { kind: 'folded', amount: folded, part },
        { kind: 'overlap', amount: overlap, part },
        { kind: 'lost', amount: 1 - area, part },
      ]),
      ...this.contacts.measure(frame).map(({ part, on, apart }): Found => ({ kind: 'left', amount: apart, part, other: on })),
      ...this.opened(frame, run),
    ]
    return { found, area: Math.min(1, ...forms.map(({ area }) => area)) }
  }

  /** Joints that open in a pose, looked at where it brings them; those that the run turns are looked at more closely. */
  private opened(frame: Frame, run: Run): Found[] {
    if (run.kind === 'expression' || run.kind === 'alternate') return []
    return this.joints
      .filter(({ turns, looker }) => turns !== run.channel && !looker.goesAsOne(frame))
      .map(({ joint, looker, rest }) => {
        const { view } = looker.follow(frame, this.painter)
        const across = 2 * Math.sqrt(openedOf(view, rest) / Math.PI)
        return { kind: 'opens', amount: across / (2 * joint.radius * looker.scale), joint: joint.id, part: joint.over }
      })
  }

  /** Faults of the joints that a run turns, in the order of its poses. */
  private turned({ channel, poses }: Run): Found[][] {
    const out = poses.map((): Found[] => [])
    if (channel === null) return out
    const angles = poses.map(({ values }) => values[channel] ?? 0)
    for (const { joint } of this.joints.filter(({ turns }) => turns === channel)) {
      const swept = sweepJoint(this.CK, this.puppet, joint, { size: TURNED, angles, assets: this.assets })
      swept.angles.forEach((angle, k) => {
        for (const { kind, share } of worstFaults([angle], swept.scale))
          out[k]?.push({ kind, amount: share, joint: joint.id, part: joint.over })
      })
    }
    return out
  }

  /** How fast a pose, of which there is a frame, goes on to the next one, and whether it jumps there. */
  private motion(run: Run, k: number, frame: Frame): { found: Found[]; speed: number | null } {
    const { between, seconds } = run
    const next = run.poses[k + 1]
    if (!next || !between) return { found: [], speed: null }
    const move = farthestMove(frame, this.at(next.values, 1))
    const far = (move?.far ?? 0) / this.height
    const speed = seconds === null ? null : far / seconds
    const found: Found[] = speed !== null && move ? [{ kind: 'fast', amount: speed, part: move.part }] : []
    if (move && far > LEAST_JUMP) {
      const jump = jumpBetween((share, into) => this.at(between(k, share), into), move.far)
      if (jump) found.push({ kind: 'jump', amount: jump.far / this.height, part: jump.part })
    }
    return { found, speed }
  }

  private sample(run: Run, pose: TriedPose, found: readonly Found[], area: number, speed: number | null): RangeSample {
    const told = found.filter(({ kind }) => isTold(kind, run.kind)).map((f) => this.fault(f, run))
    const faults = told.filter(({ grade }) => grade !== 'good').sort(worseFirst)
    const badness = Math.max(0, ...told.map(({ severity }) => severity))
    return { at: pose.at, said: pose.said, values: pose.values, faults, badness, area, speed }
  }

  private fault({ kind, amount, part, other, joint, words }: Found, run: Run): RangeFault {
    const nameOf = (id: PartId | undefined): string => (id === undefined ? '' : recordOf(this.puppet.parts, id).name)
    return {
      ...{ kind, amount, part: part ?? null, other: other ?? null, joint: joint ?? null },
      ...{ grade: gradeOf(kind, amount, run.kind), severity: severityOf(kind, amount) },
      said: words ?? `${nameOf(part)} ${FAULT_WORDS[kind](amount, nameOf(other))}`,
    }
  }
}

/** Moves below this share of the figure's height are no jumps that anybody sees. */
const LEAST_JUMP = 0.02
