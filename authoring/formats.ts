/** Formats that a puppet is written in: one entry each, with what it keeps and what it loses. */
import type { CanvasKit } from 'canvaskit-wasm'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import type { Puppet } from '@marionette/core/puppet/schema'
import { ARCHIVE_EXTENSION, ARCHIVE_TYPE, writeArchive, type Assets } from '@marionette/formats/archive/archive'
import { OPENRASTER_TYPE } from '@marionette/formats/openraster/write'
import { starterSvg } from '@marionette/formats/starter'
import { renderPng } from '@marionette/render/png'
import { lostInLayers } from './layersLost'
import { exportOpenRaster } from './openraster'
import { nth } from '@marionette/core/kernel/sure'

/** What writing needs besides the puppet. */
export interface WriteContext {
  readonly assets: Assets
  /** Loads Skia; formats without pixels never ask for it. */
  readonly skia: () => Promise<CanvasKit>
}

export interface WritableFormat {
  readonly id: string
  readonly label: string
  /** What stands on its button. */
  readonly button: string
  /** Formats of one group are offered side by side. */
  readonly group: string
  /** Added to the name of the puppet. */
  readonly ending: string
  readonly type: string
  /** What it keeps, in a sentence. */
  readonly keeps: string
  /** What it loses of a puppet, in a sentence; null where it keeps everything that it says. */
  loses(puppet: Puppet): string | null
  write(puppet: Puppet, context: WriteContext): Promise<Uint8Array>
}

/** Width of the picture in an archive, px. */
const THUMBNAIL_WIDTH = 320

const STARTER = 'The same structure under the names that templates look for, pale, to be painted over.'

export const WRITABLE: readonly WritableFormat[] = [
  {
    ...{
      id: 'archive',
      label: 'Puppet archive',
      button: 'Export archive',
      group: 'archive',
      ending: ARCHIVE_EXTENSION,
      type: ARCHIVE_TYPE,
    },
    keeps: 'Everything: artwork, bones, binds and the pose, in one file that opens again here.',
    loses: () => null,
    async write(puppet, { assets, skia }) {
      const options = { width: THUMBNAIL_WIDTH, background: null, assets: (hash: string) => assets.get(hash) }
      return writeArchive(puppet, assets, renderPng(await skia(), poseRig(compile(puppet)), options))
    },
  },
  {
    ...{ id: 'layers', label: 'Layers', button: 'Export OpenRaster', group: 'layers', ending: '.ora', type: OPENRASTER_TYPE },
    keeps: 'The artwork at rest as OpenRaster: parts as layers, groups as groups, without the rig.',
    loses: lostInLayers,
    write: async (puppet, { assets, skia }) => exportOpenRaster(await skia(), puppet, (hash) => assets.get(hash), 'artwork'),
  },
  {
    ...{
      id: 'starter-layers',
      label: 'Starter file',
      button: 'OpenRaster',
      group: 'starter',
      ending: '-starter.ora',
      type: OPENRASTER_TYPE,
    },
    keeps: STARTER,
    loses: () => null,
    write: async (puppet, { assets, skia }) => exportOpenRaster(await skia(), puppet, (hash) => assets.get(hash), 'starter'),
  },
  {
    ...{ id: 'starter-svg', label: 'Starter file', button: 'SVG', group: 'starter', ending: '-starter.svg', type: 'image/svg+xml' },
    keeps: STARTER,
    loses: () => null,
    write: (puppet) => Promise.resolve(new TextEncoder().encode(starterSvg(puppet))),
  },
]

/** The format that a name of a file asks for by its ending; the archive where no other does. */
export function formatNamed(fileName: string): WritableFormat {
  const lower = fileName.toLowerCase()
  const fits = ({ ending }: WritableFormat): boolean => lower.endsWith(ending) || lower.endsWith(ending.replace(/^-starter/, ''))
  return WRITABLE.find((f) => lower.endsWith(f.ending)) ?? WRITABLE.find(fits) ?? nth(WRITABLE, 0)
}
