/** What the documents tell people to type runs as they say: scripts are there, commands of the shell work, settings and links exist. */
import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest'
import { run } from '@marionette/core/puppet/edit'
import { newCamera } from '@marionette/core/staging/camera'
import { setCamera } from '@marionette/core/staging/commands'
import { DEMOS, demoSvg } from '@marionette/demo/demos'
import { writeArchive } from '@marionette/formats/archive/archive'
import { rig } from './rig'
import { oneArm } from './test/oneArm'

const root = fileURLToPath(new URL('..', import.meta.url))
const read = (file: string): string => readFileSync(join(root, file), 'utf8')
const pagesOf = (folder: string): string[] => readdirSync(join(root, folder)).flatMap((f) => (f.endsWith('.md') ? [`${folder}/${f}`] : []))
const DOCS = ['README.md', 'CONTRIBUTING.md', ...pagesOf('docs'), ...pagesOf('docs/guide')]

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'marionette-docs-'))
  vi.stubEnv('INIT_CWD', folder)
  writeFileSync(join(folder, 'marlo.svg'), demoSvg())
  writeFileSync(join(folder, 'pose.json'), '{}')
  writeFileSync(join(folder, 'jointed.marionette'), withOneJoint())
  const { puppet, assets } = oneArm()
  writeFileSync(join(folder, 'arm.marionette'), writeArchive(puppet, assets))
  const marlo = DEMOS['marlo']!().puppet
  const filmed = run(marlo, setCamera, { camera: newCamera(marlo.canvas) })
  writeFileSync(join(folder, 'acting.marionette'), writeArchive(filmed, new Map()))
}, 120_000)
afterAll(() => {
  vi.unstubAllEnvs()
  rmSync(folder, { recursive: true, force: true })
})

/** The Dockhand with one joint. */
function withOneJoint(): Uint8Array {
  const { puppet, assets } = DEMOS['dockhand']!()
  return writeArchive({ ...puppet, joints: Object.fromEntries(Object.entries(puppet.joints).slice(0, 1)) }, assets)
}

const lines = read('README.md').split('\n')
const commands = (script: string): string[] =>
  lines.flatMap((line) => {
    const typed = new RegExp(`^npm run -s ${script} -- (.*?)(\\s{2,}|\\s\\(|$)`).exec(line)?.[1]
    return typed ? [typed] : []
  })

/** Ways to type a command as it is printed: without what stands in brackets, and with it; one of several choices. */
function typedWays(printed: string): string[][] {
  const filled = (text: string, ending: string): string[] =>
    text
      .replace(/^sweep IN/, 'sweep jointed.marionette')
      .replace(/^test IN/, 'test arm.marionette')
      .replace(/--out FOLDER/, '--out tested')
      .replace(/^(evaluate|render) IN…?(.*)--clip NAME/, '$1 acting.marionette$2--clip Wave')
      .replace(/--time SECONDS/, '--time 1.5')
      .replace(/\bIN…?/, 'marlo.svg')
      .replace(/^(roles|inspect) FILE/, '$1 marlo.svg')
      .replace(/--pose FILE/, '--pose pose.json')
      .replace(/--width N/, '--width 90')
      .replace(/--background COLOUR/, '--background #ffffff')
      .replace(/--out (FILE\|DIR|FILE|ARCHIVE)/, `--out made${ending}`)
      .split(/\s+/)
      .filter(Boolean)
      .map((word) => (/^[\w-]+(\|[\w-]+)+$/.test(word) ? word.split('|')[0]! : word))
  const ending = printed.startsWith('render') ? '.png' : '.marionette'
  return [filled(printed.replace(/\[[^\]]*\]/g, ' '), ending), filled(printed.replace(/[[\]]/g, ' '), ending)]
}

describe('commands in the README', () => {
  const printed = commands('rig')

  test('name every verb of the command line', async () => {
    const said: string[] = []
    await rig(['--help'], { out: (t) => said.push(t), err: (t) => said.push(t) })
    const verbs = new Set([...said.join('\n').matchAll(/^ {2}rig (\w+)/gm)].map((m) => m[1]))
    expect(new Set(printed.map((p) => p.split(' ')[0]))).toEqual(verbs)
  })

  // A thousand poses are what the sweep is for; here a few show that the words are taken.
  test.each([...new Set(printed.flatMap((p) => typedWays(p.replace('--poses 1000', '--poses 3'))).map((words) => words.join(' ')))])(
    'rig %s',
    async (typed) => {
      const errors: string[] = []
      const code = await rig(typed.split(' '), { out: () => undefined, err: (t) => errors.push(t) })
      expect({ code, errors: errors.filter((e) => !/^(note|warning)/i.test(e)) }).toMatchObject({ code: 0 })
    },
  )

  test('library commands are those that there are', () => {
    const source = read('server/library.ts')
    for (const command of commands('library')) expect(source).toContain(`library ${command.split(' ')[0]} FILE`)
  })
})

describe('documents', () => {
  const scripts = (JSON.parse(read('package.json')) as { scripts: Record<string, string> }).scripts

  test.each(DOCS)('%s names scripts that exist', (file) => {
    const named = [...read(file).matchAll(/npm (?:run (?:-s )?([\w:-]+)|(start|test)\b)/g)].map((m) => m[1] ?? m[2]!)
    expect(named.filter((name) => !(name in scripts))).toEqual([])
  })

  test.each(DOCS)('%s links to files that exist', (file) => {
    const links = [...read(file).matchAll(/\]\(([^)#\s]+)/g)].map((m) => m[1]!).filter((link) => !/^[a-z]+:/.test(link))
    expect(links.filter((link) => !existsSync(join(root, dirname(file), link)))).toEqual([])
  })

  test('the settings are those that the server, the development build and the tests read', () => {
    const known = new Set(
      [...`${read('server/config.ts')}${read('app/vite.config.ts')}${read('scripts/setup.mjs')}`.matchAll(/MARIONETTE_[A-Z_]+/g)].map(
        (m) => m[0],
      ),
    )
    const listed = lines.flatMap((line) => /^\| `(MARIONETTE_[A-Z_]+)`/.exec(line)?.[1] ?? [])
    expect(new Set(listed)).toEqual(known)
  })

  test('every picture of docs/screenshots is shown somewhere', () => {
    const all = DOCS.map(read).join('\n')
    const tracked = execFileSync('git', ['ls-files', 'docs/screenshots'], { cwd: root, encoding: 'utf8' }).trim().split('\n')
    expect(tracked.filter((file) => file && !all.includes(file.split('/').at(-1)!))).toEqual([])
  })
})
