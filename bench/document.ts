/** import-svg-5000, save-*, undo-drag-*: what happens to documents around the frame. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyEdits } from '@marionette/core/puppet/edit'
import { record, startHistory, undo } from '@marionette/core/puppet/history'
import { setPose } from '@marionette/core/poses/commands'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { run } from '@marionette/core/puppet/edit'
import { importSvg } from '@marionette/formats/svg/import'
import { openDatabase } from '@marionette/server/db/database'
import { PuppetStore } from '@marionette/server/puppetStore'
import { measure, measureAsync, type Figure } from './measure'
import { pointsOf } from './puppet'
import { edit } from '@marionette/core/kernel/command'
import { boneChannel } from '@marionette/core/bones/channels'

export function importFigure(): Figure {
  const paths = 5000
  const path = (i: number): string =>
    `<path d="M${i % 97} ${i % 89}c${i % 7} 4 8 9 12 ${i % 5}s4 -8 9 ${i % 11}z" fill="#${(i * 7919 + 4096).toString(16).slice(-3).padStart(3, '0')}"/>`
  const groups = Array.from(
    { length: 100 },
    (_, g) => `<g id="piece ${g}">${Array.from({ length: paths / 100 }, (_, i) => path(g * 50 + i)).join('')}</g>`,
  )
  const source = `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">${groups.join('')}</svg>`
  return measure(
    'import-svg-5000',
    paths,
    `paths in 100 named groups, ${Math.round(source.length / 1024)} KB, to a checked puppet`,
    () => importSvg(source, 'bench'),
    undefined,
    30,
  )
}

/** A save as the server does it: checked, written, the version kept, confirmed by the disk. */
export async function saveFigure(name: string, puppet: Puppet, rounds?: number): Promise<Figure> {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-bench-'))
  const db = await openDatabase(folder)
  const store = new PuppetStore(db)
  let { revision } = await store.add(puppet)
  const figure = await measureAsync(
    name,
    pointsOf(puppet),
    'checked, written with its version, on the disk',
    async (round) => {
      revision = (await store.save(puppet.id, run(puppet, setNote, { note: `${round}` }), revision)).revision
    },
    rounds,
  )
  await db.close()
  rmSync(folder, { recursive: true, force: true })
  return figure
}

/** A drag of sixty moves that turns a bone, kept as one change and undone. */
export function undoDragFigure(name: string, puppet: Puppet, rounds?: number): Figure {
  const bone = Object.keys(puppet.bones)[0]!
  const moves = 60
  const figure = measure(
    name,
    pointsOf(puppet),
    `one of ${moves} moves of a drag, with its share of keeping and undoing it`,
    () => {
      const history = startHistory(puppet)
      let edited = applyEdits(puppet, [edit(setPose, { values: { [boneChannel(bone, 'angle')]: 0.5 } })])
      for (let i = 1; i < moves; i++) edited = applyEdits(puppet, [edit(setPose, { values: { [boneChannel(bone, 'angle')]: i } })])
      undo(record(history, edited.puppet, edited.change))
    },
    undefined,
    rounds,
  )
  return { ...figure, median_ms: figure.median_ms! / moves, p95_ms: figure.p95_ms! / moves }
}
