/** The commands of the command line: the same capabilities from the shell. */
import { parseArgs } from 'node:util'
import { DEMOS } from '@marionette/demo/demos'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import type { Puppet } from '@marionette/core/puppet/schema'
import type { Assets } from '@marionette/formats/archive/archive'
import { loadCanvasKit } from '@marionette/render/node'
import { evaluateInput } from './evaluate'
import { Failure, Failures, lineOf, linesOf } from './failure'
import { readInput, writeOutput } from './files'
import { fit } from './fit'
import { inspect } from './inspect'
import { roles } from './roles'
import { render } from './render'
import { sweep } from './sweep'
import { testInput } from './testing'
import { Naming } from '@marionette/core/roles/records'
import { formatNamed, WRITABLE } from '@marionette/authoring/formats'
import { READABLE_ENDINGS } from '@marionette/formats/endings'

const USAGE = `usage:
  rig render IN… --out FILE|DIR [--width N] [--pose FILE] [--background COLOUR] [--camera]
  rig render IN… --out FILE|DIR --clip NAME [--time SECONDS]… [--width N] [--background COLOUR] [--camera]
  rig inspect IN [--json]
  rig evaluate IN [--pose FILE] [--json]
  rig evaluate IN --clip NAME [--time SECONDS]… [--json]      (moments of a clip, in any order)
  rig convert IN --out FILE      (${WRITABLE.map((f) => `${f.ending}: ${f.label.toLowerCase()}`).join(', ')})
  rig roles FILE [--json] [--naming viewer-side|character-side|near-far]
  rig fit IN --template NAME --out ARCHIVE [--json]      (${TEMPLATES.map((t) => t.id).join(', ')})
  rig sweep IN [--json]      (turns each joint through its limits and counts holes, corners and doubled lines)
  rig sweep IN --poses N [--seed N] [--json]      (poses everything together at random and looks for joints that open)
  rig test IN --out DIR [--poses N] [--seed N] [--json]      (puts everything through its range: contact sheet, film, report)
  rig demo NAME --out ARCHIVE      (${Object.keys(DEMOS).join(', ')})

IN is one of ${READABLE_ENDINGS.join(' ')}. A pose file is JSON: { "bone/NAME/angle": degrees }.`

const OPTIONS = {
  out: { type: 'string' },
  width: { type: 'string' },
  pose: { type: 'string' },
  clip: { type: 'string' },
  time: { type: 'string', multiple: true },
  background: { type: 'string' },
  template: { type: 'string' },
  naming: { type: 'string' },
  poses: { type: 'string' },
  seed: { type: 'string' },
  camera: { type: 'boolean' },
  json: { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
} as const

/** Writes a puppet in the format that the name of the file asks for. */
async function saveAs(puppet: Puppet, out: string, assets: Assets = new Map(), format = formatNamed(out)): Promise<void> {
  writeOutput(out, await format.write(puppet, { assets, skia: loadCanvasKit }))
}

const saveArchive = (puppet: Puppet, out: string, assets?: Assets): Promise<void> => saveAs(puppet, out, assets, WRITABLE[0])

function required(value: string | undefined, name: string): string {
  if (!value) throw new Failure(`${name} is missing; "rig --help" lists the commands`)
  return value
}

interface Values {
  readonly out?: string
  readonly width?: string
  readonly pose?: string
  readonly clip?: string
  readonly time?: readonly string[]
  readonly background?: string
  readonly template?: string
  readonly naming?: string
  readonly poses?: string
  readonly seed?: string
  readonly camera?: boolean
  readonly json: boolean
}

/** Where a command writes: its result, and what there is to say of it. Each call is one line or more. */
export interface Streams {
  readonly out: (text: string) => void
  readonly err: (text: string) => void
}

/** What the exit code says: 0 where all went well, 1 where something was found that should not be. */
type Verb = (inputs: readonly string[], values: Values, streams: Streams) => Promise<0 | 1 | void>

const VERBS: Readonly<Record<string, Verb>> = {
  async render(inputs, values) {
    required(inputs[0], 'IN')
    const failures = await render(inputs, { ...values, times: values.time ?? [], out: required(values.out, '--out') })
    if (failures.length > 0) throw new Failures(failures)
  },
  inspect: async ([input], { json }, { out }) => out(await inspect(required(input, 'IN'), json)),
  evaluate: async ([input], { pose, clip, time, json }, { out }) =>
    out(await evaluateInput(required(input, 'IN'), { pose, clip, times: time ?? [] }, json)),
  async convert([input], values, { err }) {
    const { puppet, warnings, assets } = await readInput(required(input, 'IN'))
    await saveAs(puppet, required(values.out, '--out'), assets)
    for (const { place, message } of warnings) err(`rig: warning: ${place}: ${message}`)
  },
  roles: async ([input], { json, naming }, { out }) =>
    out(await roles(required(input, 'FILE'), json, naming === undefined ? null : readNaming(naming))),
  async fit([input], values, { out }) {
    const file = required(values.out, '--out')
    const { puppet, assets, report } = await fit(required(input, 'IN'), required(values.template, '--template'), values.json)
    await saveArchive(puppet, file, assets)
    out(report)
  },
  sweep: async ([input], values, { out }) => out(await sweep(required(input, 'IN'), values)),
  async test([input], values, { out }) {
    const { said, isBroken } = await testInput(required(input, 'IN'), { ...values, out: required(values.out, '--out') })
    out(said)
    return isBroken ? 1 : 0
  },
  async demo([input], values) {
    const name = required(input, 'NAME')
    const build = Object.hasOwn(DEMOS, name) ? DEMOS[name] : undefined
    if (!build) throw new Failure(`there is no demo "${name}"; there is ${Object.keys(DEMOS).join(', ')}`)
    const { puppet, assets } = build()
    await saveArchive(puppet, required(values.out, '--out'), assets)
  },
}

function readNaming(text: string): Naming {
  const naming = Naming.safeParse(text)
  if (!naming.success) throw new Failure(`--naming ${text}: this is no convention; there is ${Naming.options.join(', ')}`)
  return naming.data
}

function parse(args: readonly string[]) {
  try {
    return parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true })
  } catch (error) {
    throw new Failure(lineOf(error))
  }
}

async function runVerb(args: readonly string[], streams: Streams): Promise<number> {
  const { values, positionals } = parse(args)
  const [verb, ...inputs] = positionals
  if (values.help || !verb) {
    streams.out(USAGE)
    return 0
  }
  const run = Object.hasOwn(VERBS, verb) ? VERBS[verb] : undefined
  if (!run) throw new Failure(`"${verb}" is no command; "rig --help" lists them`)
  // What a verb says may give something back; only a 1 is meant as a code.
  return (await run(inputs, values, streams)) === 1 ? 1 : 0
}

/** Runs the command line; the exit code is 0, 1 where a test found something broken, or 2 where something failed, of which each has a line on the error stream. */
export async function rig(args: readonly string[], streams: Streams): Promise<number> {
  try {
    return await runVerb(args, streams)
  } catch (error) {
    for (const line of linesOf(error)) streams.err(`rig: ${line}`)
    return 2
  }
}
