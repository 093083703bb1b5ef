import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { addBone, setLimits } from '@marionette/core/bones/commands'
import { bindWhole, unbind } from '@marionette/core/binds/commands'
import { addClip } from '@marionette/core/clips/commands'
import { newKey, putKey } from '@marionette/core/clips/edits'
import { newClip, newLayer } from '@marionette/core/clips/new'
import { addJoint } from '@marionette/core/joints/commands'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { applyEdits, run } from '@marionette/core/puppet/edit'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Puppet } from '@marionette/core/puppet/schema'
import { mendsFor } from '@marionette/core/rangeTest/mends'
import { decidingFault, reportSaid, runKey, type RangeReport, type RangeRun } from '@marionette/core/rangeTest/report'
import { capsule } from '@marionette/core/test/capsule'
import { drawingPart } from '@marionette/core/test/puppets'
import { chainPuppet, reachWith, withConstraint } from '@marionette/core/test/limbs'
import { loadCanvasKit } from '@marionette/render/node'
import { decodePng } from '@marionette/formats/pixels'
import { rangeSheet } from './rangeSheet'
import { rangeTest } from './rangeTest'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const SPOTS = [60, 160, 260].map((x) => ({ x, y: 200 }))

/** An arm of two capsules, each on its bone, with a joint in between, and a button that lies on the forearm. */
function arm(): Puppet {
  const [shoulder, elbow, wrist] = SPOTS as [{ x: number; y: number }, { x: number; y: number }, { x: number; y: number }]
  const drawings = [
    capsule('upper-art', shoulder, elbow, 20),
    capsule('fore-art', elbow, wrist, 20),
    capsule('button-art', { x: 238, y: 200 }, { x: 242, y: 200 }, 5),
  ]
  const names = ['Upper', 'Fore', 'Button']
  let puppet = newPuppet('p', 'Arm', { width: 400, height: 400 })
  const parts = drawings.map((drawing, k) => drawingPart(names[k]!.toLowerCase(), names[k]!, drawing))
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts, drawings })
  puppet = run(puppet, addBone, { id: 'a', name: 'A', parent: null, start: shoulder, end: elbow })
  puppet = run(puppet, addBone, { id: 'b', name: 'B', parent: 'a', start: elbow, end: wrist })
  puppet = run(puppet, setLimits, { bone: 'a', limits: { min: -40, max: 40 } })
  puppet = run(puppet, setLimits, { bone: 'b', limits: { min: -90, max: 90 } })
  puppet = run(puppet, bindWhole, { parts: ['upper'], bone: 'a' })
  puppet = run(puppet, bindWhole, { parts: ['fore', 'button'], bone: 'b' })
  return run(puppet, addJoint, { id: 'j', under: 'upper', over: 'fore', at: elbow, radius: 20 })
}

const tested = (puppet: Puppet, poses = 6): RangeReport => rangeTest(CK, puppet, { poses })
const runNamed = ({ runs }: RangeReport, id: string): RangeRun => runs.find((one) => one.id === id)!

describe('a range test', () => {
  test('finds nothing wrong with an arm of round ends', () => {
    const report = tested(arm())
    expect(report.runs.filter(({ grade }) => grade !== 'good').map(({ name }) => name)).toEqual([])
    expect(report.poses).toBe(13 + 13 + 4 + 6)
    expect(reportSaid(report)).toBe('36 poses in 4 runs: 0 broken, 0 to look at, 4 good')
  })

  test('finds a button that was left behind, and the mend takes it along', () => {
    const forgotten = run(arm(), unbind, { parts: ['button'] })
    const report = tested(forgotten)
    const bad = runNamed(report, 'bone/b')
    expect(bad.grade).toBe('broken')
    expect(report.runs[0]!.grade).toBe('broken')
    expect(decidingFault(bad)).toMatchObject({ kind: 'left', part: 'button', other: 'fore' })
    const mend = mendsFor(forgotten, bad).find(({ id }) => id === 'carry')!
    expect(mend.label).toBe('Let Fore carry Button')
    const mended = applyEdits(forgotten, [...mend.edits]).puppet
    const again = rangeTest(CK, mended, { poses: 6, only: [runKey(bad)] })
    expect(again.runs.map(({ id, grade }) => [id, grade])).toEqual([['bone/b', 'good']])
  })

  test('finds a joint that opens, and how to close it', () => {
    // A forearm that begins with a straight cut opens on the outer side of a bend.
    const puppet = arm()
    const cut: Puppet = {
      ...puppet,
      drawings: {
        ...puppet.drawings,
        'fore-art': { ...puppet.drawings['fore-art']!, shapes: capsule('fore-art', { x: 172, y: 200 }, SPOTS[2]!, 20).shapes },
        'upper-art': { ...puppet.drawings['upper-art']!, shapes: capsule('upper-art', SPOTS[0]!, { x: 148, y: 200 }, 20).shapes },
      },
    }
    const bad = runNamed(tested(cut), 'bone/b')
    expect(bad.grade).not.toBe('good')
    expect(bad.samples.some(({ faults }) => faults.some(({ joint }) => joint === 'j'))).toBe(true)
    // At rest nothing is wrong with it: it is drawn so.
    expect(bad.samples.find(({ at }) => at === 0)!.faults).toEqual([])
    expect(mendsFor(cut, bad).map(({ id }) => id)).toContain('round')
  })

  test('looks at a joint in the poses of the run, also where its bone has no limits', () => {
    const free = run(arm(), setLimits, { bone: 'b', limits: { min: null, max: null } })
    const [narrow, wide] = [run(free, setLimits, { bone: 'b', limits: { min: -60, max: 60 } }), free]
    const faultsOf = (puppet: Puppet) => runNamed(tested(puppet, 0), 'bone/b').samples.map(({ at, badness }) => [at, badness])
    expect(faultsOf(wide)).toEqual(faultsOf(narrow))
  })

  test('finds a limb that flips over while its target goes steadily', () => {
    // A chain that is stretched straight folds to the other side where its target passes its root.
    const drawing = capsule('rod', { x: 100, y: 100 }, { x: 150, y: 100 }, 6)
    const chain = withConstraint(chainPuppet(2), reachWith(['b0', 'b1']))
    const part = drawingPart('rod-part', 'Rod', drawing)
    const drawn = run(run(chain, addArtwork, { parent: chain.root, parts: [part], drawings: [drawing] }), bindWhole, {
      parts: ['rod-part'],
      bone: 'b0',
    })
    const layer = newLayer('l', 'Base')
    putKey(layer, 'target/goal/x', { ...newKey(0, 0, null), way: 'linear' })
    putKey(layer, 'target/goal/x', { ...newKey(1, -200, null), way: 'linear' })
    const clip = newClip('through', 'Through its root', { length: 1, rate: 24, layers: [layer], poses: [] })
    const found = runNamed(tested(run(drawn, addClip, { clip }), 0), 'clip/through')
    const kinds = found.samples.flatMap(({ faults }) => faults.map(({ kind }) => kind))
    expect(kinds).toContain('jump')
    expect(Math.max(...found.samples.map(({ speed }) => speed ?? 0))).toBeGreaterThan(0)
  })

  test('is the same every time', () => {
    expect(tested(arm())).toEqual(tested(arm()))
  })

  test('comes as a sheet with a picture for each run', () => {
    const path = '@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2'
    const font = new Uint8Array(readFileSync(createRequire(new URL('../cli/testing.ts', import.meta.url)).resolve(path)))
    const { width, height } = decodePng(rangeSheet(CK, arm(), tested(arm()), { font }), 'The sheet')
    expect(width).toBe(2 * 24 + 6 * 200 + 5 * 12)
    expect(height).toBe(2 * 24 + 60 + 240)
  })
})
