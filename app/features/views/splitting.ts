/** Cells of a sheet while they are being set: names of views, boxes and spots, and what splitting asks for. */
import type { Box, Puppet, Vec } from '@marionette/core/puppet/schema'
import type { SplitWork } from '../../jobs/sheets'
import type { View } from '@marionette/core/views/records'
import { nth } from '@marionette/core/kernel/sure'

export interface DraftCell {
  readonly key: number
  /** Name of its view; one that the puppet does not have yet is made. */
  readonly name: string
  readonly box: Box
  readonly spot: Vec
}

/** Names of views in the order in which sheets mostly show them. */
export const VIEW_NAMES: readonly string[] = ['Front', 'Three-quarter', 'Side', 'Back']

/** The name of the next cell: of the puppet's own views first, then usual ones, then numbers. */
export function nextName(views: readonly View[], taken: readonly string[]): string {
  const isFree = (name: string): boolean => !taken.some((t) => t.toLowerCase() === name.toLowerCase())
  const known = [...views.map((v) => v.name), ...VIEW_NAMES].find(isFree)
  if (known !== undefined) return known
  let n = taken.length + 1
  while (!isFree(`View ${n}`)) n++
  return `View ${n}`
}

export function draftCells(views: readonly View[], figures: readonly { readonly box: Box; readonly spot: Vec }[]): DraftCell[] {
  const out: DraftCell[] = []
  for (const [key, { box, spot }] of figures.entries())
    out.push({
      key,
      name: nextName(
        views,
        out.map((c) => c.name),
      ),
      box,
      spot,
    })
  return out
}

/** Why cells cannot be split yet, in a sentence; null where they can. */
export function cellProblem(cells: readonly DraftCell[]): string | null {
  if (cells.length === 0) return 'Add a cell for each figure.'
  if (cells.some((c) => c.name.trim() === '')) return 'Each cell needs the name of a view.'
  const names = new Set(cells.map((c) => c.name.trim().toLowerCase()))
  return names.size < cells.length ? 'Two cells are meant for the same view.' : null
}

/** Room around the figures on a fitted canvas, as a share of the tallest. */
const MARGIN = 0.08

/** A canvas on which each figure fits with its spot on the same place, and that place. */
export function fittedCanvas(cells: readonly DraftCell[]): { canvas: { width: number; height: number }; spot: Vec } {
  const most = (of: (c: DraftCell) => number): number => Math.max(...cells.map(of))
  const aside = most(({ box, spot }) => Math.max(spot.x - box.x, box.x + box.width - spot.x))
  const above = most(({ box, spot }) => spot.y - box.y)
  const below = Math.max(
    0,
    most(({ box, spot }) => box.y + box.height - spot.y),
  )
  const margin = MARGIN * (above + below)
  const [width, height] = [2 * (aside + margin), above + below + 2 * margin]
  return {
    canvas: { width: Math.ceil(width), height: Math.ceil(height) },
    spot: { x: Math.ceil(width) / 2, y: Math.round(margin + above) },
  }
}

/** What splitting needs to know of the cells: their views, new ones among them. */
export function splitWork(
  puppet: Puppet,
  part: string,
  cells: readonly DraftCell[],
  options: { readonly fit: boolean; readonly paper: boolean },
): SplitWork {
  const views: View[] = []
  const placed = cells.map(({ name, box, spot }) => {
    const wanted = name.trim()
    const known = [...puppet.views, ...views].find((v) => v.name.toLowerCase() === wanted.toLowerCase())
    const view = known ?? { id: freeId(puppet, views, wanted), name: wanted }
    if (!known) views.push(view)
    return { view: view.id, box, spot }
  })
  const shown = placed.find((c) => c.view === puppet.view) ?? nth(placed, 0)
  const { canvas, spot } = options.fit ? fittedCanvas(cells) : { canvas: null, spot: shown.spot }
  return { puppet, part, cells: placed, views, paper: options.paper, spot, canvas }
}

/** An id for a view by its name. */
export function freeId(puppet: Puppet, views: readonly View[], name: string): string {
  const stem =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 40) || 'view'
  const isFree = (id: string): boolean => ![...puppet.views, ...views].some((v) => v.id === id)
  let id = stem
  for (let n = 2; !isFree(id); n++) id = `${stem}-${n}`
  return id
}
