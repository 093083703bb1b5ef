/** Sheets, inside of a worker: a picture of one with the figures on it, and the edits that split it. */
import { findFigures } from '@marionette/core/artwork/figures'
import { freshId } from '@marionette/core/kernel/ids'
import type { Box, Puppet, Vec } from '@marionette/core/puppet/schema'
import { wholeSheet } from '@marionette/core/cutting/sheets'
import { drawnParts } from '@marionette/core/parts/tree'
import { splitSheet } from '@marionette/core/cutting/sheetCommands'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds } from '@marionette/core/puppet/probe'
import { cutSheet, type Cell } from '@marionette/formats/cutting/sheet'
import { encodePng } from '@marionette/formats/pixels'
import { renderPixels } from '@marionette/render/pixels'
import { loadSkia } from '../skia/loadSkia'
import type { Worked } from './cutting'
import { writtenEdits } from './edits'
import { edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import type { View } from '@marionette/core/views/records'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

type Assets = ReadonlyMap<string, Uint8Array>

export interface SurveyedSheet {
  readonly png: Uint8Array
  /** What the picture shows of the canvas at rest. */
  readonly region: Box
  readonly figures: readonly { readonly box: Box; readonly spot: Vec }[]
}

/** Longest side of the picture in which figures are looked for. */
const SURVEY = 900
/** Room left around a figure, as a share of the longest side of the sheet. */
const ROOM = 0.008

/** Draws a part as it was before it was split, and finds the figures on it. Throws EditError where it shows nothing. */
export async function surveySheet(puppet: Puppet, part: string, assets: Assets): Promise<SurveyedSheet> {
  // A sheet from which everything was cut is mostly hidden.
  const whole = wholeSheet(puppet, part)
  const frame = poseRig(compile({ ...whole, parts: { ...whole.parts, [part]: { ...partOf(whole, part), visible: true } } }), {})
  const parts = new Set(drawnParts(frame.rig.puppet, part).map((p) => p.id))
  const box = frameBounds(frame, parts)
  if (!box) throw new EditError(`"${partOf(puppet, part).name}" shows nothing that could be split.`)
  const only = new Set([...parts].map((id) => sure(frame.rig.parts.index.get(id))))
  const scale = SURVEY / Math.max(box.maxX - box.minX, box.maxY - box.minY)
  const pixels = renderPixels(await loadSkia(), frame, { region: box, scale, only, assets: (hash) => assets.get(hash) })
  const room = (ROOM * SURVEY) / scale
  const onCanvas = (x: number, y: number): Vec => ({ x: box.minX + x / scale, y: box.minY + y / scale })
  const figures = findFigures(pixels).map(({ box: b, feet }) => {
    const { x, y } = onCanvas(b.x, b.y)
    return {
      box: { x: x - room, y: y - room, width: b.width / scale + 2 * room, height: b.height / scale + 2 * room },
      spot: onCanvas(feet.x, feet.y),
    }
  })
  const region = { x: box.minX, y: box.minY, width: box.maxX - box.minX, height: box.maxY - box.minY }
  return { png: encodePng(pixels), region, figures }
}

export interface SplitWork {
  readonly puppet: Puppet
  readonly part: string
  readonly cells: readonly Cell[]
  /** Views that the puppet does not have yet. */
  readonly views: readonly View[]
  /** Whether the paper behind the figures is taken away. */
  readonly paper: boolean
  /** Where all spots come to lie, and the new size of the canvas. */
  readonly spot: Vec
  readonly canvas: { readonly width: number; readonly height: number } | null
}

/** Cuts a sheet into its cells. Throws EditError where a cell is empty. */
export function splitIntoViews({ puppet, part, cells, views, paper, spot, canvas }: SplitWork, assets: Assets): Worked {
  const cut = cutSheet(puppet, part, cells, (hash) => assets.get(hash), freshId('cell'), paper)
  const args = { part, sheet: cut.sheet, views: [...views], pieces: [...cut.pieces], spot, canvas }
  return { edits: writtenEdits([edit(splitSheet, args)]), assets: cut.assets }
}
