/** The command line: the same capabilities from the shell. Errors are one line on stderr, exit code 2. */
import { parseArgs } from 'node:util'
import { DEMOS } from '@marionette/demo/demos'
import { Naming } from '@marionette/core/document/schema'
import { TEMPLATES } from '@marionette/core/template/builtin'
import { compile } from '@marionette/core/rig/compile'
import { poseRig } from '@marionette/core/rig/evaluate'
import type { Puppet } from '@marionette/core/document/schema'
import { writeArchive, type Assets } from '@marionette/formats/archive/archive'
import { starterSvg } from '@marionette/formats/starter'
import { exportOpenRaster } from '@marionette/render/openraster'
import { loadCanvasKit } from '@marionette/render/node'
import { renderPng } from '@marionette/render/png'
import { evaluateInput } from './evaluate'
import { Failure, lineOf } from './failure'
import { readInput, writeOutput } from './files'
import { fit } from './fit'
import { inspect } from './inspect'
import { roles } from './roles'
import { render } from './render'
import { sweep } from './sweep'

const USAGE = `usage:
  rig render IN… --out FILE|DIR [--width N] [--pose FILE] [--background COLOUR]
  rig inspect IN [--json]
  rig evaluate IN [--pose FILE] [--json]
  rig convert IN --out FILE      (a puppet archive; .ora: layers as OpenRaster; .svg: a starter file to paint over)
  rig roles FILE [--json] [--naming viewer-side|character-side|near-far]
  rig fit IN --template NAME --out ARCHIVE [--json]      (${TEMPLATES.map((t) => t.id).join(', ')})
  rig sweep IN [--json]      (turns each joint through its limits and counts holes, corners and doubled lines)
  rig sweep IN --poses N [--seed N] [--json]      (poses everything together at random and looks for joints that open)
  rig demo NAME --out ARCHIVE      (${Object.keys(DEMOS).join(', ')})

IN is artwork (SVG, OpenRaster, PSD, PNG, WebP) or a puppet archive. A pose file is JSON: { "bone/NAME/angle": degrees }.`

const OPTIONS = {
  out: { type: 'string' },
  width: { type: 'string' },
  pose: { type: 'string' },
  background: { type: 'string' },
  template: { type: 'string' },
  naming: { type: 'string' },
  poses: { type: 'string' },
  seed: { type: 'string' },
  json: { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
} as const

const THUMBNAIL_WIDTH = 320

async function saveArchive(puppet: Puppet, out: string, assets: Assets = new Map()): Promise<void> {
  const frame = poseRig(compile(puppet))
  const options = { width: THUMBNAIL_WIDTH, background: null, assets: (hash: string) => assets.get(hash) }
  writeOutput(out, writeArchive(puppet, assets, renderPng(await loadCanvasKit(), frame, options)))
}

/** By the ending of the name: OpenRaster, a starter file in SVG, or a puppet archive. */
async function saveAs(puppet: Puppet, out: string, assets: Assets): Promise<void> {
  if (/\.ora$/i.test(out))
    writeOutput(
      out,
      exportOpenRaster(await loadCanvasKit(), puppet, (hash) => assets.get(hash)),
    )
  else if (/\.svg$/i.test(out)) writeOutput(out, new TextEncoder().encode(starterSvg(puppet)))
  else await saveArchive(puppet, out, assets)
}

function required(value: string | undefined, name: string): string {
  if (!value) throw new Failure(`${name} is missing; "rig --help" lists the commands`)
  return value
}

async function main(args: readonly string[]): Promise<void> {
  const { values, positionals } = parse(args)
  const [verb, ...inputs] = positionals
  if (values.help || !verb) return void process.stdout.write(`${USAGE}\n`)
  if (verb === 'render') {
    required(inputs[0], 'IN')
    const failures = await render(inputs, { ...values, out: required(values.out, '--out') })
    for (const failure of failures) process.stderr.write(`rig: ${failure}\n`)
    if (failures.length > 0) process.exitCode = 2
  } else if (verb === 'inspect') {
    process.stdout.write(`${await inspect(required(inputs[0], 'IN'), values.json)}\n`)
  } else if (verb === 'evaluate') {
    process.stdout.write(`${await evaluateInput(required(inputs[0], 'IN'), values.pose, values.json)}\n`)
  } else if (verb === 'convert') {
    const { puppet, warnings, assets } = await readInput(required(inputs[0], 'IN'))
    await saveAs(puppet, required(values.out, '--out'), assets)
    for (const { place, message } of warnings) process.stderr.write(`rig: warning: ${place}: ${message}\n`)
  } else if (verb === 'roles') {
    process.stdout.write(
      `${await roles(required(inputs[0], 'FILE'), values.json, values.naming === undefined ? null : readNaming(values.naming))}\n`,
    )
  } else if (verb === 'fit') {
    const out = required(values.out, '--out')
    const { puppet, assets, report } = await fit(required(inputs[0], 'IN'), required(values.template, '--template'), values.json)
    await saveArchive(puppet, out, assets)
    process.stdout.write(`${report}\n`)
  } else if (verb === 'sweep') {
    process.stdout.write(`${await sweep(required(inputs[0], 'IN'), values)}\n`)
  } else if (verb === 'demo') {
    const name = required(inputs[0], 'NAME')
    const build = Object.hasOwn(DEMOS, name) ? DEMOS[name] : undefined
    if (!build) throw new Failure(`there is no demo "${name}"; there is ${Object.keys(DEMOS).join(', ')}`)
    const { puppet, assets } = build()
    await saveArchive(puppet, required(values.out, '--out'), assets)
  } else throw new Failure(`"${verb}" is no command; "rig --help" lists them`)
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

try {
  await main(process.argv.slice(2))
} catch (error) {
  process.stderr.write(`rig: ${lineOf(error)}\n`)
  process.exitCode = 2
}
