/** import-ora-60x2048, mesh-1024 and fit-marlo. */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { freshId, sequentialIds } from '@marionette/core/kernel/ids'
import { meshPicture, type Alpha } from '@marionette/core/artwork/pictureMesh'
import { applyFit } from '@marionette/core/templates/apply'
import { assignRoles } from '@marionette/core/templates/assign'
import { PERSON } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { demoSvg } from '@marionette/demo/demos'
import { readPuppetFile } from '@marionette/formats/read'
import { importSvg } from '@marionette/formats/svg/import'
import { paintedFile } from './paintedFile'
import { FEW_ROUNDS, measure, type Figure } from './measure'

const LAYERS = 60
const SIDE = 2048

/** Rounds of an import that takes a minute. */
const IMPORTS = 2

/** Import of many large layers; the peak of memory is taken in a process of its own. */
export function importOpenRasterFigure(): Figure {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-bench-'))
  const path = join(folder, 'layers.ora')
  const file = paintedFile(LAYERS, SIDE)
  writeFileSync(path, file)
  const read = (): unknown => readPuppetFile(file, 'layers.ora', { ids: freshId })
  const figure = measure('import-ora-60x2048', LAYERS, '', read, undefined, IMPORTS)
  const alone = fileURLToPath(new URL('./importAlone.ts', import.meta.url))
  const peak = Number(execFileSync(process.execPath, ['--import', 'tsx', alone, path], { encoding: 'utf8' }))
  rmSync(folder, { recursive: true })
  return {
    ...figure,
    bytes: peak,
    note: `${Math.round(file.length / 2 ** 20)} MB file; bytes is the peak of a whole process that imports it once`,
  }
}

/** An outline with lobes and a hole, 1024 px on a side. */
function lobed(): Alpha {
  const alpha = new Uint8Array(1024 * 1024)
  for (let y = 0; y < 1024; y++)
    for (let x = 0; x < 1024; x++) {
      const [u, v] = [x - 512, y - 512]
      const r = Math.hypot(u, v)
      const edge = 380 + 90 * Math.sin(9 * Math.atan2(v, u)) + 20 * Math.sin(40 * Math.atan2(v, u))
      if (r < edge && r > 120) alpha[y * 1024 + x] = 255
    }
  return { width: 1024, height: 1024, alpha }
}

export function meshFigure(): Figure {
  const picture = lobed()
  const triangles = meshPicture(picture).triangles.length / 3
  return measure('mesh-1024', triangles, 'n is triangles: trace, simplify, triangulate', () => meshPicture(picture))
}

export function fitFigure(): Figure {
  const { puppet } = importSvg(demoSvg(), 'Marlo', sequentialIds('m'))
  return measure(
    'fit-marlo',
    PERSON.bones.length,
    'roles, pivots, bones and weights of a person; each round from a new import',
    () => {
      // What is remembered of drawings must not help: every round has drawings of its own.
      const copy = structuredClone(puppet)
      applyFit(copy, planFit(copy, PERSON, assignRoles(copy, PERSON).roles), { ids: freshId })
    },
    undefined,
    FEW_ROUNDS,
  )
}
