/** Paints the Dockhand's flat sheet (sheet.svg as one picture, as a painting program would give it) and cuts it into a puppet. */
import { readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { writeArchive } from '@marionette/formats/archive/archive'
import { readPuppetFile } from '@marionette/formats/read'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import { buildDockhand } from './build'

const at = (name: string): string => fileURLToPath(new URL(name, import.meta.url))
const { puppet } = readPuppetFile(new Uint8Array(readFileSync(at('./sheet.svg'))), 'sheet.svg')
const png = renderPng(await loadCanvasKit(), posePuppet(puppet), { width: puppet.canvas.width, background: null, assets: () => undefined })
writeFileSync(at('./sheet.png'), png)
const dockhand = buildDockhand(png)
const archive = writeArchive(dockhand.puppet, dockhand.assets)
writeFileSync(at('./dockhand.marionette'), archive)
process.stdout.write(`sheet.png: ${Math.round(png.length / 1024)} KB, dockhand.marionette: ${Math.round(archive.length / 1024)} KB\n`)
