import { execFile } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { decode } from 'fast-png'
import type { Sweep } from '@marionette/authoring/sweep'
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest'
import { canonicalJson } from '@marionette/core/kernel/json'
import { demoOpenRaster, DEMOS, demoSvg } from '@marionette/demo/demos'
import type { Evaluation } from './evaluate'
import { rig as runRig } from './rig'
import { oneArm } from './test/oneArm'
import { readArchive, writeArchive } from '@marionette/formats/archive/archive'

const root = fileURLToPath(new URL('..', import.meta.url))
let folder: string

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><g id="flag" opacity=".5"><rect width="20" height="20" fill="#ff0000"/></g><g id="pole" display="none"><rect width="4" height="20"/></g><text>Hi</text></svg>`

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'marionette-cli-'))
  vi.stubEnv('INIT_CWD', folder)
  writeFileSync(join(folder, 'flag.svg'), SVG)
  writeFileSync(join(folder, 'broken.svg'), '<svg')
})
afterAll(() => {
  vi.unstubAllEnvs()
  rmSync(folder, { recursive: true, force: true })
})

interface Outcome {
  code: number
  out: string
  err: string
}

/** Runs the command line in this process, from the folder. */
async function rig(...args: string[]): Promise<Outcome> {
  const said = { out: '', err: '' }
  const code = await runRig(args, { out: (text) => (said.out += `${text}\n`), err: (text) => (said.err += `${text}\n`) })
  return { code, ...said }
}

/** Runs it as a process of its own. */
const spawned = (...args: string[]): Promise<Outcome> =>
  new Promise((resolve) =>
    execFile(
      process.execPath,
      ['server/dist/rig.mjs', ...args],
      { cwd: root, env: { ...process.env, INIT_CWD: folder } },
      (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }),
    ),
  )

const picture = (name: string) => decode(readFileSync(join(folder, name)))
const pixel = (name: string, x: number, y: number): number[] => {
  const image = picture(name)
  return [...image.data.slice((y * image.width + x) * 4, (y * image.width + x) * 4 + 4)]
}

/** A demo puppet as an archive, with some of its joints. */
function onlyJoints(demo: string, wanted: (names: readonly string[]) => boolean): Uint8Array {
  const { puppet, assets } = DEMOS[demo]!()
  const joints = Object.values(puppet.joints).filter((j) => wanted([j.under, j.over].map((id) => puppet.parts[id]!.name)))
  return writeArchive({ ...puppet, joints: Object.fromEntries(joints.map((j) => [j.id, j])) }, assets)
}

describe('rig', () => {
  test('render: one file, transparent unless told otherwise', async () => {
    expect(await rig('render', 'flag.svg', '--out', 'flag.png')).toMatchObject({ code: 0, err: '' })
    expect(picture('flag.png')).toMatchObject({ width: 40, height: 20 })
    expect(pixel('flag.png', 30, 10)).toEqual([0, 0, 0, 0])
    await rig('render', 'flag.svg', '--out', 'wide.png', '--width', '80', '--background', 'White')
    expect(picture('wide.png')).toMatchObject({ width: 80, height: 40 })
    expect(pixel('wide.png', 60, 20)).toEqual([255, 255, 255, 255])
    expect(pixel('wide.png', 20, 20)[1]).toBeCloseTo(128, -1)
  })

  test('evaluate: bones, bounds and order in a pose', async () => {
    await rig('demo', 'marlo', '--out', 'evaluated.marionette')
    writeFileSync(join(folder, 'bow.json'), '{ "bone/Hips/angle": 90, "bone/Hips/x": 10 }')
    const { code, out } = await rig('evaluate', 'evaluated.marionette', '--pose', 'bow.json', '--json')
    const { bones, parts, order } = JSON.parse(out) as Evaluation
    expect(code).toBe(0)
    expect(bones).toHaveLength(22)
    const spine = bones.find((b) => b.name === 'Spine')!
    expect(spine.parent).toBe(bones.find((b) => b.name === 'Hips')!.id)
    // The hips stand at 320, 600; what stood 58 px above now lies to the left.
    expect(spine.start.map(Math.round)).toEqual([272, 600])
    expect(parts.find((p) => p.name === 'Head')!.bounds).toHaveLength(4)
    expect(new Set(order).size).toBe(order.length)
    expect(order.every((id) => parts.some((p) => p.id === id))).toBe(true)
    expect((await rig('evaluate', 'flag.svg')).out).toContain('part  flag  0 0 20 20')
  })

  test('clips: inspect lists them, evaluate and render show their moments in any order', async () => {
    await rig('demo', 'marlo', '--out', 'acting.marionette')
    const listed = JSON.parse((await rig('inspect', 'acting.marionette', '--json')).out) as {
      clips: { name: string; length: number; rate: number }[]
    }
    expect(listed.clips).toMatchObject([
      { name: 'Wave', length: 3.5, rate: 24 },
      { name: 'Look round', length: 4, rate: 24 },
      { name: 'On the way', length: 4, rate: 24 },
    ])
    const moments = async (...times: string[]) =>
      JSON.parse(
        (await rig('evaluate', 'acting.marionette', '--clip', 'wave', ...times.flatMap((t) => ['--time', t]), '--json')).out,
      ) as (Evaluation & { time: number })[]
    const forward = await moments('0', '1.5', '3')
    const mixed = await moments('3', '0', '1.5')
    expect(mixed.map((m) => m.time)).toEqual([3, 0, 1.5])
    expect([mixed[1], mixed[2], mixed[0]]).toEqual(forward)
    const tip = (m: Evaluation | undefined): number => m!.bones.find((b) => b.name === 'Hand left')!.end[1]
    expect(tip(forward[1])).toBeLessThan(tip(forward[0]) - 200)
    await rig('render', 'acting.marionette', '--clip', 'Wave', '--time', '0', '--time', '1.5', '--width', '64', '--out', 'frames')
    expect(picture('frames/acting 0 s.png').data).not.toEqual(picture('frames/acting 1.5 s.png').data)
    expect((await rig('evaluate', 'acting.marionette', '--time', '1')).err).toContain('--time says a moment of a clip')
    expect((await rig('evaluate', 'acting.marionette', '--clip', 'jump')).err).toContain('this puppet has Wave, Look round, On the way')
    expect((await rig('evaluate', 'acting.marionette', '--clip', 'wave', '--time', 'soon')).err).toContain('seconds from 0 on')
  })

  test('render: several inputs into a folder; a bad one is reported and stops nothing', async () => {
    const { code, err } = await rig('render', 'broken.svg', 'flag.svg', 'nowhere.svg', '--out', 'pictures')
    expect(code).toBe(2)
    expect(err.trim().split('\n')).toHaveLength(2)
    expect(err).toMatch(/rig: broken\.svg: The file is not well-formed/)
    expect(err).toMatch(/rig: nowhere\.svg: there is no such file/)
    expect(existsSync(join(folder, 'pictures/flag.png'))).toBe(true)
  })

  test('demo, render with a pose by name, and inspect', async () => {
    expect((await rig('demo', 'marlo', '--out', 'marlo.marionette')).code).toBe(0)
    expect(canonicalJson(readArchive(readFileSync(join(folder, 'marlo.marionette'))).puppet)).toBe(canonicalJson(DEMOS['marlo']!().puppet))
    writeFileSync(join(folder, 'wave.json'), JSON.stringify({ 'bone/upper arm left/angle': 120, 'bone/forearm left/angle': 40 }))
    await rig('render', 'marlo.marionette', '--out', 'rest.png')
    await rig('render', 'marlo.marionette', '--out', 'wave.png', '--pose', 'wave.json')
    // The hand has left its place beside the satchel and is up beside the head.
    expect(pixel('rest.png', 510, 600)[3]).toBe(255)
    expect(pixel('wave.png', 510, 600)[3]).toBe(0)
    const report = JSON.parse((await rig('inspect', 'marlo.marionette', '--json')).out)
    expect(report.counts).toMatchObject({ bones: 22 })
    expect(report.counts.parts).toBeGreaterThanOrEqual(26)
  })

  test('inspect: kind, visibility, opacity, bounds, counts and warnings', async () => {
    const { out } = await rig('inspect', 'flag.svg', '--json')
    const report = JSON.parse(out)
    expect(report.tree.children).toMatchObject([
      { name: 'flag', kind: 'drawing', visible: true, opacity: 0.5, bounds: [0, 0, 20, 20] },
      { name: 'pole', visible: false, bounds: [0, 0, 4, 20] },
    ])
    expect(report.counts).toMatchObject({ parts: 3, shapes: 2, bones: 0 })
    expect(report.warnings).toMatchObject([{ code: 'svg.text', place: 'line 1, <text>' }])
  })

  test('convert: an archive that holds what the drawing showed', async () => {
    const { code, err } = await rig('convert', 'flag.svg', '--out', 'flag.marionette')
    expect(code).toBe(0)
    expect(err).toContain('warning: line 1, <text>')
    await rig('render', 'flag.marionette', '--out', 'again.png')
    await rig('render', 'flag.svg', '--out', 'first.png')
    expect(picture('again.png').data).toEqual(picture('first.png').data)
  })

  test('roles: of a list of names, and of the layers of a file', async () => {
    writeFileSync(join(folder, 'names.txt'), 'Upper arm left\nhand.R\nforarm left\nwheel\n')
    const { naming, roles } = JSON.parse((await rig('roles', 'names.txt', '--json')).out)
    expect(naming).toBe('character-side')
    expect(roles).toMatchObject([
      { name: 'Upper arm left', role: 'upper-arm', side: 'left', certainty: 1, grade: 'sure' },
      { name: 'hand.R', role: 'hand', side: 'right', certainty: 1 },
      { name: 'forarm left', role: 'forearm', side: 'left', grade: 'likely' },
      { name: 'wheel', role: null, side: null, certainty: 0 },
    ])
    writeFileSync(join(folder, 'quill.ora'), demoOpenRaster())
    const { out } = await rig('roles', 'quill.ora')
    expect(out).toContain('Shin far: Shin right, 1 (sure)')
    expect((await rig('roles', 'names.txt', '--json', '--naming', 'viewer-side')).out).toContain('"side": "right"')
  })

  test('fit: a bound skeleton in one step, with what it placed and what it could not', async () => {
    writeFileSync(join(folder, 'marlo.svg'), demoSvg())
    const { code, out } = await rig('fit', 'marlo.svg', '--template', 'person', '--out', 'fitted.marionette', '--json')
    expect(code).toBe(0)
    const report = JSON.parse(out)
    expect(report.missing).toEqual([])
    expect(report.bones.length).toBeGreaterThanOrEqual(19)
    expect(Object.keys(readArchive(readFileSync(join(folder, 'fitted.marionette'))).puppet.bones)).toHaveLength(report.bones.length)
    writeFileSync(join(folder, 'wave2.json'), JSON.stringify({ 'bone/Upper arm left/angle': 120 }))
    expect((await rig('render', 'fitted.marionette', '--pose', 'wave2.json', '--out', 'fitted.png')).code).toBe(0)
    const flag = await rig('fit', 'flag.svg', '--template', 'person', '--out', 'x.marionette')
    expect(flag.err).toContain('nothing in it plays a role')
    expect((await rig('fit', 'marlo.svg', '--template', 'ghost', '--out', 'x.marionette')).err).toContain('there is no template "ghost"')
  })

  test('test: a sheet, a film and a report; the exit code says whether something is broken', async () => {
    const { puppet, assets } = oneArm()
    writeFileSync(join(folder, 'clatter.marionette'), writeArchive(puppet, assets))
    const { out, code } = await rig('test', 'clatter.marionette', '--out', 'tested', '--poses', '4')
    expect([code, out.split('\n')[0]]).toEqual([0, expect.stringMatching(/^Clatter: \d+ poses in \d+ runs: 0 broken, 0 to look at/)])
    const written = (name: string): Buffer => readFileSync(join(folder, 'tested', name))
    expect([...written('sheet.png').subarray(1, 4)]).toEqual([...Buffer.from('PNG')])
    expect(written('film.gif').subarray(0, 6).toString()).toBe('GIF89a')
    const report = JSON.parse(written('report.json').toString()) as { broken: number; runs: { name: string; grade: string }[] }
    expect([report.broken, report.runs.some(({ name }) => name === 'Claw left')]).toEqual([0, true])

    const claw = Object.values(puppet.parts).find(({ name }) => name === 'Claw left')!
    const loose = { ...puppet, parts: { ...puppet.parts, [claw.id]: { ...claw, bind: null } } }
    writeFileSync(join(folder, 'loose.marionette'), writeArchive(loose, assets))
    const broken = await rig('test', 'loose.marionette', '--out', 'tested', '--poses', '4', '--json')
    expect(broken.code).toBe(1)
    expect((JSON.parse(broken.out) as { broken: number }).broken).toBeGreaterThan(0)

    expect((await rig('test', 'flag.svg', '--out', 'tested')).err).toContain('there is nothing to be tried in it')
    expect((await rig('test', 'clatter.marionette')).err).toContain('--out is missing')
  })

  test('sweep: every joint with its limits, the angles tried and its faults in pixels', async () => {
    writeFileSync(
      join(folder, 'joints.zip'),
      onlyJoints('marlo', (names) => names.includes('Shin left')),
    )
    const report = JSON.parse((await rig('sweep', 'joints.zip', '--json')).out) as { joints: Sweep[] }
    const knee = report.joints.find((j) => j.over === 'Shin left' || j.under === 'Shin left')!
    expect(knee).toMatchObject({ min: -130, max: 5, holes: 0, corners: 0, doubled: 0, verdict: { grade: 'good' } })
    expect(knee.angles.length).toBeGreaterThan(20)
    expect(knee.angles[0]).toEqual({ angle: -130, holes: 0, corners: 0, doubled: 0 })
    expect((await rig('sweep', 'joints.zip', '--poses', '5')).out).toContain('5 poses: no joint opens')
    expect((await rig('sweep', 'joints.zip', '--poses', 'many')).err).toContain('--poses many: this is no number')
    expect((await rig('sweep', 'flag.svg')).err).toContain('there are no joints in it')
    writeFileSync(
      join(folder, 'views.zip'),
      onlyJoints('dockhand', (names) => names.includes('Hand right')),
    )
    const views = JSON.parse((await rig('sweep', 'views.zip', '--json')).out) as { joints: (Sweep & { view: string })[] }
    expect(views.joints.map((j) => j.view)).toEqual(['Front', 'Three-quarter', 'Side'])
    expect(views.joints.map((j) => j.holes)).toEqual([0, 0, 0])
  })

  test('convert, inspect and render take layered pictures', async () => {
    writeFileSync(join(folder, 'quill.ora'), demoOpenRaster())
    const report = JSON.parse((await rig('inspect', 'quill.ora', '--json')).out)
    expect(report.counts).toMatchObject({ pictures: 36, parts: 43 })
    expect((await rig('convert', 'quill.ora', '--out', 'quill.marionette')).code).toBe(0)
    await rig('render', 'quill.marionette', '--out', 'q1.png', '--width', '240')
    await rig('render', 'quill.ora', '--out', 'q2.png', '--width', '240')
    expect(picture('q1.png').data).toEqual(picture('q2.png').data)
    expect((await rig('convert', 'flag.svg', '--out', 'flag.ora')).code).toBe(0)
    expect(JSON.parse((await rig('inspect', 'flag.ora', '--json')).out).tree.children).toMatchObject([
      { name: 'flag', opacity: 0.5 },
      { name: 'pole', visible: false },
    ])
  })

  test.each([
    [['paint'], '"paint" is no command'],
    [['render', 'flag.svg'], '--out is missing'],
    [['render', '--out', 'x.png'], 'IN is missing'],
    [['render', 'flag.svg', '--out', 'x.png', '--width', 'wide'], 'whole number'],
    [['render', 'flag.svg', '--out', 'x.png', '--background', 'nocolour'], 'not a colour'],
    [['render', 'flag.svg', '--out', 'x.png', '--pose', 'flag.svg'], 'not JSON'],
    [['render', 'flag.svg', '--out', 'x.png', '--nonsense'], 'nonsense'],
    [['demo', 'nobody', '--out', 'x'], 'no demo "nobody"'],
    [['inspect', 'pictures'], 'this is a folder'],
  ])('%j fails with one line and code 2', async (args, words) => {
    mkdirSync(join(folder, 'pictures'), { recursive: true })
    const { code, err, out } = await rig(...args)
    expect({ code, out }).toEqual({ code: 2, out: '' })
    expect(err.trim().split('\n')).toHaveLength(1)
    expect(err).toContain(words)
  })

  test('as a process it says the same: results, errors and codes', async () => {
    const demo = await spawned('demo', 'dockhand', '--out', 'dockhand.marionette')
    expect(demo).toEqual({ code: 0, out: '', err: '' })
    expect(readArchive(readFileSync(join(folder, 'dockhand.marionette'))).puppet.name).toContain('Dockhand')
    expect(await spawned('inspect', 'flag.svg', '--json')).toEqual(await rig('inspect', 'flag.svg', '--json'))
    expect(await spawned('render', 'broken.svg', 'nowhere.svg', '--out', 'none')).toEqual(
      await rig('render', 'broken.svg', 'nowhere.svg', '--out', 'none'),
    )
    expect((await spawned('render', 'broken.svg', '--out', 'none.png')).code).toBe(2)
  })

  test('a pose of something that is not there is an error of that input', async () => {
    writeFileSync(join(folder, 'tail.json'), JSON.stringify({ 'bone/tail/angle': 1 }))
    expect((await rig('render', 'flag.svg', '--out', 'x.png', '--pose', 'tail.json')).err).toBe(
      'rig: flag.svg: No bone is called "tail".\n',
    )
  })
})
