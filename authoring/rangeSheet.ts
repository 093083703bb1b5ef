/** A range test in pictures: a contact sheet, the worst first, and a film of all that was tried. */
import type { CanvasKit } from 'canvaskit-wasm'
import {
  reportSaid,
  runName,
  sampleSaid,
  type RangeFault,
  type RangeReport,
  type RangeRun,
  type RangeSample,
} from '@marionette/core/rangeTest/report'
import { unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { restBounds } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, poseRig, writePose } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import { frameBounds } from '@marionette/core/puppet/probe'
import type { Puppet } from '@marionette/core/puppet/schema'
import { movedBounds } from '@marionette/core/reports/movers'
import { inView } from '@marionette/core/views/views'
import type { Pixels } from '@marionette/formats/pixels'
import { Painter } from '@marionette/render/painter'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import { contactSheet, mostTiles, type Tile } from './contactSheet'
import { filmOf } from './film'

/** Background of the pictures. */
const STAGE = '#e8e0d0'
/** Room around the figure, as a share of its size. */
const ROOM = 0.12
/** A picture of a fault shows at least this share of the figure, so that it can be told where it is. */
const LEAST_SHOWN = 0.4

/** A view that is taken pictures of. */
interface Seen {
  readonly frame: Frame
  readonly rest: Frame
  readonly pose: Float64Array
  readonly figure: Bounds
  readonly painter: Painter
}

/** Poses a puppet and takes pictures of it, view by view. */
export class RangeCamera {
  private readonly views = new Map<string, Seen>()

  constructor(
    private readonly CK: CanvasKit,
    private readonly puppet: Puppet,
    private readonly assets: AssetSource | undefined,
  ) {}

  /** A square picture of a sample: of the whole figure, or of where its worst fault is. */
  take(run: Pick<RangeRun, 'view'>, sample: RangeSample, size: number, isClose: boolean): Pixels {
    const { frame, rest, pose, figure, painter } = this.view(run.view)
    evaluate(frame.rig, writePose(frame.rig, sample.values, pose), frame)
    const fault = sample.faults[0]
    const region = squared(!isClose ? whole(frame, figure) : fault ? around(frame, fault, figure) : moved(rest, frame, figure))
    return renderPixels(this.CK, frame, { region, scale: size / (region.maxX - region.minX), background: STAGE, painter })
  }

  dispose(): void {
    for (const { painter } of this.views.values()) painter.dispose()
    this.views.clear()
  }

  private view(name: string): Seen {
    const known = this.views.get(name)
    if (known) return known
    const id = this.puppet.views.find((view) => view.name === name)?.id ?? this.puppet.view
    const rig = compile(inView(this.puppet, id))
    const { canvas, root } = rig.puppet
    const figure = restBounds(rig.puppet, root) ?? { minX: 0, minY: 0, maxX: canvas.width, maxY: canvas.height }
    // What a painter has made is good for one rig: runs of several views come mixed.
    const painter = new Painter(this.CK, this.assets)
    const made = { frame: makeFrame(rig), rest: poseRig(rig, {}), pose: new Float64Array(rig.restPose.length), figure, painter }
    this.views.set(name, made)
    return made
  }
}

/** The whole figure, wherever the pose brings it. */
function whole(frame: Frame, figure: Bounds): Bounds {
  const box = { ...figure }
  const now = frameBounds(frame)
  if (now) unite(box, now)
  return box
}

/** What of the figure a pose moves. */
const moved = (rest: Frame, frame: Frame, figure: Bounds): Bounds => roomy(movedBounds(rest, frame) ?? figure, figure)

/** Where a fault is. */
function around(frame: Frame, { part, other }: RangeFault, figure: Bounds): Bounds {
  const parts = [part, other].filter((id) => id !== null)
  const found = frameBounds(frame, new Set(parts))
  return found ? roomy(found, figure) : whole(frame, figure)
}

/** A box that shows enough of the figure around it. */
function roomy(box: Bounds, figure: Bounds): Bounds {
  const least = LEAST_SHOWN * Math.max(figure.maxX - figure.minX, figure.maxY - figure.minY)
  const grow = (low: number, high: number): [number, number] => {
    const more = Math.max(0, least - (high - low)) / 2
    return [low - more, high + more]
  }
  const [minX, maxX] = grow(box.minX, box.maxX)
  const [minY, maxY] = grow(box.minY, box.maxY)
  return { minX, maxX, minY, maxY }
}

function squared({ minX, minY, maxX, maxY }: Bounds): Bounds {
  const half = (Math.max(maxX - minX, maxY - minY) / 2) * (1 + ROOM)
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2]
  return { minX: x - half, maxX: x + half, minY: y - half, maxY: y + half }
}

const TONES = { good: 'plain', look: 'look', broken: 'broken' } as const

/** A sample as a picture with its words. */
const tileOf = (camera: RangeCamera, run: RangeRun, sample: RangeSample, size: number, isClose: boolean): Tile => ({
  pixels: camera.take(run, sample, size, isClose),
  title: runName(run),
  note: sampleSaid(sample),
  tone: TONES[sample.faults[0]?.grade ?? 'good'],
})

export interface PicturesOptions {
  /** Bytes of the font of words, as TTF, WOFF or WOFF2. */
  readonly font: Uint8Array
  readonly assets?: AssetSource | undefined
  readonly progress?: (done: number) => void
}

const COLUMNS = 6
const TILE = 200

/** All runs on one sheet, each in its worst pose, as PNG. What does not fit on a picture is left out from its good end. */
export function rangeSheet(CK: CanvasKit, puppet: Puppet, report: RangeReport, { font, assets, progress }: PicturesOptions): Uint8Array {
  const camera = new RangeCamera(CK, puppet, assets)
  try {
    const runs = report.runs.slice(0, mostTiles({ columns: COLUMNS, height: TILE }))
    const tiles = runs.flatMap((run, k) => {
      progress?.((k + 1) / runs.length)
      const sample = run.samples[run.worst]
      return sample ? [tileOf(camera, run, sample, TILE, true)] : []
    })
    const options = { font, title: `${report.puppet}: range test`, note: reportSaid(report), columns: COLUMNS, width: TILE, height: TILE }
    return contactSheet(CK, tiles, options)
  } finally {
    camera.dispose()
  }
}

/** Side of the film, px, and pictures a second. */
const FILM = 320
const FILM_RATE = 12
/** Poses of one run that the film shows, at most: of two hundred at random a few tell enough. */
const MOST_OF_A_RUN = 48

/** Everything that was tried, in the order of the sheet, as an animated GIF with words below. */
export function rangeFilm(CK: CanvasKit, puppet: Puppet, report: RangeReport, { font, assets, progress }: PicturesOptions): Uint8Array {
  const camera = new RangeCamera(CK, puppet, assets)
  const shots = report.runs.flatMap((run) => run.samples.slice(0, MOST_OF_A_RUN).map((sample) => ({ run, sample })))
  try {
    const pictures = function* () {
      for (const [k, { run, sample }] of shots.entries()) {
        progress?.((k + 1) / shots.length)
        yield tileOf(camera, run, sample, FILM, false)
      }
    }
    return filmOf(CK, pictures(), { font, size: FILM, rate: FILM_RATE })
  } finally {
    camera.dispose()
  }
}
