/** Calls to the compute worker. Each call has a worker of its own, so that cancelling it is ending it. */
import { proxy, wrap } from 'comlink'
import type { Picture, PictureMesh, Puppet, Vec } from '@marionette/core/puppet/schema'
import type { SpeechTrack } from '@marionette/core/speech/track'
import type { InBetweenPlan } from '@marionette/authoring/inBetweens'
import type { CheckedExpression, Expression } from '@marionette/authoring/expressions'
import type { Progress } from '@marionette/formats/layers/import'
import type { ReadPuppet } from '@marionette/formats/read'
import type { ComputeApi } from './compute'
import type { CapPieces } from '@marionette/core/joints/jointCaps'
import type { Disc } from '@marionette/core/maths/geometry/disc'
import type { ProposedJoint } from '@marionette/core/joints/proposeJoints'
import type { ColourAreaOptions } from '@marionette/core/artwork/floodSelect'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import type { Scrap } from '@marionette/formats/cutting/strays'
import type { StrayPiece } from '@marionette/authoring/strays'
import type { Where } from './strays'
import type { CutWork, FoundStretch, SweptJoint, Worked } from './cutting'
import type { FitWork, Fitted } from './fitting'
import type { TakenIn } from './library'
import type { Merged } from './merging'
import type { SplitWork, SurveyedSheet } from './sheets'
import type { RangeReport } from '@marionette/core/rangeTest/report'
import type { RangeTested, TestProgress } from './rangeTesting'
import type { Sound } from '@marionette/formats/sound/wav'
import type { SpokenLine } from './speaking'
import type { Compared, TakenUpdate } from './updating'
import type { WeightField } from '@marionette/core/binds/records'
import type { Joint } from '@marionette/core/joints/records'

export class Cancelled extends Error {}

type Remote = ReturnType<typeof wrap<ComputeApi>>

async function inWorker<T>(work: (api: Remote) => Promise<T>, signal?: AbortSignal): Promise<T> {
  const worker = new Worker(new URL('./compute.ts', import.meta.url), { type: 'module' })
  try {
    return await new Promise<T>((resolve, reject) => {
      signal?.addEventListener('abort', () => reject(new Cancelled('Cancelled.')), { once: true })
      worker.addEventListener('error', (e) => reject(new Error(e.message || 'The worker failed.')))
      work(wrap<ComputeApi>(worker)).then(resolve, reject)
    })
  } finally {
    worker.terminate()
  }
}

type Assets = ReadonlyMap<string, Uint8Array>

/** Heavy work, each call in a worker of its own. */
export const workerJobs = {
  read: (files: readonly File[], name: string, progress: Progress, signal?: AbortSignal): Promise<ReadPuppet> =>
    inWorker((api) => api.read([...files], name, proxy(progress)), signal),

  take: (files: readonly File[], name: string, progress: Progress, signal?: AbortSignal): Promise<TakenIn> =>
    inWorker((api) => api.takeIn([...files], name, proxy(progress)), signal),

  weigh: (
    puppet: Puppet,
    part: string,
    bones: readonly string[],
    progress: (done: number) => void,
    signal?: AbortSignal,
  ): Promise<WeightField> => inWorker((api) => api.weigh(puppet, part, [...bones], proxy(progress)), signal),

  mesh: (picture: Picture, png: Uint8Array, spacing: number): Promise<PictureMesh> => inWorker((api) => api.mesh(picture, png, spacing)),

  merge: (puppet: Puppet, part: string, assets: ReadonlyMap<string, Uint8Array>, scale: number, signal?: AbortSignal): Promise<Merged> =>
    inWorker((api) => api.merge(puppet, part, assets, scale), signal),

  write: (puppet: Puppet, assets: ReadonlyMap<string, Uint8Array>, format: string): Promise<Uint8Array> =>
    inWorker((api) => api.write(puppet, assets, format)),

  fit: (work: FitWork, progress: (done: number) => void, signal?: AbortSignal): Promise<Fitted> =>
    inWorker((api) => api.fit(work, proxy(progress)), signal),

  compare: (puppet: Puppet, file: File, source: string, progress: Progress, signal?: AbortSignal): Promise<Compared> =>
    inWorker((api) => api.compare(puppet, file, source, proxy(progress)), signal),

  update: (puppet: Puppet, compared: Compared, ticked: readonly number[]): Promise<TakenUpdate> =>
    inWorker((api) => api.update(puppet, compared, [...ticked])),

  cut: (work: CutWork, assets: Assets, signal?: AbortSignal): Promise<Worked> => inWorker((api) => api.cutParts(work, assets), signal),

  cap: (
    puppet: Puppet,
    joint: Joint,
    assets: Assets,
    options: { readonly threshold: number; readonly pieces: CapPieces },
    progress: (done: number) => void,
    signal?: AbortSignal,
  ): Promise<Worked> => inWorker((api) => api.capJoint(puppet, joint, assets, options, proxy(progress)), signal),

  attachedAt: (puppet: Puppet, part: string): Promise<Vec | null> => inWorker((api) => api.attachedAt(puppet, part)),

  proposeJoint: (puppet: Puppet, under: string, over: string): Promise<Disc | null> =>
    inWorker((api) => api.proposeJoint(puppet, under, over)),

  proposeJoints: (puppet: Puppet, signal?: AbortSignal): Promise<ProposedJoint[]> => inWorker((api) => api.proposeJoints(puppet), signal),

  split: (puppet: Puppet, part: string, id: string, threshold: number, assets: Assets, signal?: AbortSignal): Promise<Worked> =>
    inWorker((api) => api.splitPart(puppet, part, id, threshold, assets), signal),

  fill: (
    puppet: Puppet,
    part: string,
    area: Area,
    assets: Assets,
    progress: (done: number) => void,
    signal?: AbortSignal,
  ): Promise<Worked> => inWorker((api) => api.fillPart(puppet, part, area, assets, proxy(progress)), signal),

  strays: (puppet: Puppet, where: Where, assets: Assets, signal?: AbortSignal): Promise<StrayPiece[]> =>
    inWorker((api) => api.strays(puppet, where, assets), signal),

  removeScraps: (puppet: Puppet, scraps: readonly Scrap[], assets: Assets): Promise<Worked> =>
    inWorker((api) => api.removeScraps(puppet, scraps, assets)),

  foreign: (puppet: Puppet, source: string, area: Area, assets: Assets, signal: AbortSignal): Promise<Area | null> =>
    inWorker((api) => api.foreignIn(puppet, source, area, assets), signal),

  colourArea: (
    puppet: Puppet,
    part: string,
    spot: Vec,
    options: ColourAreaOptions,
    assets: Assets,
    signal?: AbortSignal,
  ): Promise<Area | null> => inWorker((api) => api.colourAreaOf(puppet, part, spot, options, assets), signal),

  colour: (puppet: Puppet, spot: Vec, assets: Assets): Promise<string | null> => inWorker((api) => api.colourAt(puppet, spot, assets)),

  stretch: (puppet: Puppet, source: string, spot: Vec, reach: number, signal?: AbortSignal): Promise<FoundStretch | null> =>
    inWorker((api) => api.outlineAt(puppet, source, spot, reach), signal),

  speak: (line: string, rate: number, isAloud: boolean): Promise<SpokenLine> => inWorker((api) => api.speak(line, rate, isAloud)),

  hear: (file: File, progress: (done: number) => void, signal: AbortSignal): Promise<SpeechTrack> =>
    inWorker((api) => api.hearFile(file, proxy(progress)), signal),

  hearSound: (sound: Sound, progress: (done: number) => void, signal: AbortSignal): Promise<SpeechTrack> =>
    inWorker((api) => api.hearSamples(sound, proxy(progress)), signal),

  wav: (sound: Sound): Promise<Uint8Array> => inWorker((api) => api.wavOf(sound)),

  between: (puppet: Puppet, plan: InBetweenPlan, assets: Assets, signal?: AbortSignal): Promise<Worked> =>
    inWorker((api) => api.between(puppet, plan, assets), signal),

  checkFaces: (
    puppet: Puppet,
    expressions: readonly Expression[],
    assets: Assets,
    progress: (done: number) => void,
    signal: AbortSignal,
  ): Promise<CheckedExpression[]> => inWorker((api) => api.checkFaces(puppet, [...expressions], assets, proxy(progress)), signal),

  /** @param only runs to be tried again; all of them where it is null */
  testRange: (
    puppet: Puppet,
    assets: Assets,
    only: readonly string[] | null,
    progress: TestProgress,
    signal: AbortSignal,
  ): Promise<RangeTested> => inWorker((api) => api.testRange(puppet, assets, only, proxy(progress)), signal),

  rangeFile: (
    puppet: Puppet,
    report: RangeReport,
    kind: 'sheet' | 'film',
    assets: Assets,
    progress: (done: number) => void,
    signal: AbortSignal,
  ): Promise<Uint8Array> => inWorker((api) => api.rangeFile(puppet, report, kind, assets, proxy(progress)), signal),

  survey: (puppet: Puppet, part: string, assets: Assets, signal?: AbortSignal): Promise<SurveyedSheet> =>
    inWorker((api) => api.surveySheet(puppet, part, assets), signal),

  splitInViews: (work: SplitWork, assets: Assets): Promise<Worked> => inWorker((api) => api.splitIntoViews(work, assets)),

  sweep: (puppet: Puppet, joint: Joint, assets: Assets, progress: (done: number) => void, signal?: AbortSignal): Promise<SweptJoint> =>
    inWorker((api) => api.sweep(puppet, joint, assets, proxy(progress)), signal),
}

/** What does heavy work for an editor. Each call may be cancelled through its signal, and rejects with Cancelled then. */
export type Jobs = typeof workerJobs
