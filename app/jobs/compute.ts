/** Heavy work, off the main thread. */
import { expose } from 'comlink'
import { attachedAt } from '@marionette/core/joints/attachment'
import { proposeJoint } from '@marionette/core/joints/jointCaps'
import { proposeJoints } from '@marionette/core/joints/proposeJoints'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { meshPicture, placeMesh } from '@marionette/core/artwork/pictureMesh'
import { freshId } from '@marionette/core/kernel/ids'
import type { Picture, PictureMesh, Puppet } from '@marionette/core/puppet/schema'
import { alphaOf, decodePng } from '@marionette/formats/pixels'
import type { SpeechTrack } from '@marionette/core/speech/track'
import type { ReadPuppet } from '@marionette/formats/read'
import type { Progress } from '@marionette/formats/layers/import'
import { WRITABLE } from '@marionette/authoring/formats'
import type { CheckedExpression, Expression } from '@marionette/authoring/expressions'
import type { InBetweenPlan } from '@marionette/authoring/inBetweens'
import { loadSkia } from '../skia/loadSkia'
import { capJoint, colourAreaOf, colourAt, cutParts, fillPart, outlineAt, splitPart, sweep, type Worked } from './cutting'
import { writtenEdits } from './edits'
import { fitTemplate, type FitWork, type Fitted } from './fitting'
import { takeIn } from './library'
import { mergedPicture, type Merged } from './merging'
import { readFiles } from './reading'
import type { RangeReport } from '@marionette/core/rangeTest/report'
import type { RangeTested, TestProgress } from './rangeTesting'
import type { Sound } from '@marionette/formats/sound/wav'
import type { SpokenLine } from './speaking'
import { splitIntoViews, surveySheet } from './sheets'
import { foreignIn, removeScraps, strays } from './strays'
import { startUpdate, takeUpdate, type Compared, type TakenUpdate } from './updating'
import type { WeightField } from '@marionette/core/binds/records'
import { sure } from '@marionette/core/kernel/sure'

type Assets = ReadonlyMap<string, Uint8Array>

const api = {
  /** Reads dropped files into a puppet. */
  read: (files: File[], name: string, progress: Progress): Promise<ReadPuppet> => readFiles(files, name, progress),
  /** Takes dropped files into the library as one puppet. */
  takeIn,
  /** Weighs a part for a blended bind. */
  weigh: (puppet: Puppet, part: string, bones: string[], progress: (done: number) => void): WeightField =>
    autoWeights(puppet, part, bones, progress),
  /** Makes the mesh of a picture anew, from its PNG bytes, with edges of a length in its own space. */
  mesh: (picture: Picture, png: Uint8Array, spacing: number): PictureMesh => {
    const pixels = decodePng(png, 'The picture')
    const alpha = { width: pixels.width, height: pixels.height, alpha: alphaOf(pixels) }
    return placeMesh(meshPicture(alpha, { spacing: spacing / picture.scale }), picture.x, picture.y, picture.scale)
  },
  /** Draws a group as one picture. */
  merge: (puppet: Puppet, part: string, assets: ReadonlyMap<string, Uint8Array>, scale: number): Promise<Merged> =>
    mergedPicture(puppet, part, assets, scale, freshId('picture')),
  /** Writes a puppet in one of the formats. */
  write: (puppet: Puppet, assets: ReadonlyMap<string, Uint8Array>, format: string): Promise<Uint8Array> =>
    sure(WRITABLE.find((f) => f.id === format)).write(puppet, { assets, skia: loadSkia }),
  /** Cutting, capping, filling and sweeping, see there. */
  attachedAt,
  proposeJoint,
  proposeJoints,
  cutParts,
  capJoint,
  splitPart,
  fillPart,
  colourAreaOf,
  colourAt,
  outlineAt,
  sweep,
  strays,
  removeScraps,
  foreignIn,
  /** Speech, see there; it comes when it is asked for. */
  speak: async (line: string, rate: number, isAloud: boolean): Promise<SpokenLine> =>
    (await import('./speaking')).speak(line, rate, isAloud),
  hearFile: async (file: File, progress: (done: number) => void): Promise<SpeechTrack> =>
    (await import('./speaking')).hearFile(file, progress),
  hearSamples: async (sound: Sound, progress: (done: number) => void): Promise<SpeechTrack> =>
    (await import('./speaking')).hearSamples(sound, progress),
  wavOf: async (sound: Sound): Promise<Uint8Array> => (await import('./speaking')).wavOf(sound),
  /** Makes alternates between two. */
  between: async (puppet: Puppet, plan: InBetweenPlan, assets: ReadonlyMap<string, Uint8Array>): Promise<Worked> => {
    const { inBetweens } = await import('@marionette/authoring/inBetweens')
    const made = inBetweens(await loadSkia(), puppet, plan, freshId('between'), (hash) => assets.get(hash))
    return { edits: writtenEdits(made.edits), assets: made.assets }
  },
  /** Runs a face through its moods and sounds. */
  checkFaces: async (
    puppet: Puppet,
    expressions: Expression[],
    assets: ReadonlyMap<string, Uint8Array>,
    progress: (done: number) => void,
  ): Promise<CheckedExpression[]> => {
    const { checkExpressions } = await import('@marionette/authoring/expressions')
    return checkExpressions(await loadSkia(), puppet, expressions, { assets: (hash) => assets.get(hash), progress })
  },
  /** The range test, see there; it comes when it is asked for. */
  testRange: async (puppet: Puppet, assets: Assets, only: readonly string[] | null, progress: TestProgress): Promise<RangeTested> =>
    (await import('./rangeTesting')).testRange(puppet, assets, only, progress),
  rangeFile: async (puppet: Puppet, report: RangeReport, kind: 'sheet' | 'film', assets: Assets, progress: (done: number) => void) =>
    (await import('./rangeTesting')).rangeFile(puppet, report, kind, assets, progress),
  /** Views of a sheet, see there. */
  surveySheet,
  splitIntoViews,
  /** Fits a template. */
  fit: (work: FitWork, progress: (done: number) => void): Fitted => fitTemplate(work, progress),
  /** Compares the puppet with a new version of a file. */
  compare: (puppet: Puppet, file: File, source: string, progress: Progress): Promise<Compared> =>
    startUpdate(puppet, file, source, progress),
  /** Works out what taking over some of the differences does. */
  update: (puppet: Puppet, compared: Compared, ticked: number[]): TakenUpdate => takeUpdate(puppet, compared, ticked),
}

export type ComputeApi = typeof api

expose(api)
