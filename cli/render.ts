/** `rig render IN… --out FILE|DIR [--width N] [--pose FILE | --clip NAME --time SECONDS…] [--background COLOUR] [--camera]` */
import { join } from 'node:path'
import type { Puppet } from '@marionette/core/puppet/schema'
import { cameraIn } from '@marionette/core/staging/channels'
import type { Camera } from '@marionette/core/staging/records'
import { stemOf } from '@marionette/formats/fileNames'
import { parseColour } from '@marionette/formats/svg/paint'
import { loadCanvasKit } from '@marionette/render/node'
import { throughCamera } from '@marionette/render/camera'
import { renderPng } from '@marionette/render/png'
import { Failure, lineOf } from './failure'
import { isFolder, readInput, writeOutput } from './files'
import { checkShown, momentsOf, type Shown } from './moments'

export interface RenderOptions extends Shown {
  readonly out: string
  readonly width?: string | undefined
  readonly background?: string | undefined
  /** Whether it is seen through the camera of the puppet. */
  readonly camera?: boolean | undefined
}

/** Renders every input; returns the failures, one line each. Throws Failure when the options make no sense. */
export async function render(inputs: readonly string[], options: RenderOptions): Promise<string[]> {
  const width = options.width === undefined ? null : readWidth(options.width)
  const background = options.background === undefined || options.background === 'transparent' ? null : readColour(options.background)
  checkShown(options)
  const intoFolder = inputs.length > 1 || options.times.length > 1 || isFolder(options.out)
  const CK = await loadCanvasKit()
  const failures: string[] = []
  const written = new Set<string>()
  for (const input of inputs) {
    try {
      const { puppet, assets } = await readInput(input)
      for (const { time, pose, frame } of momentsOf(puppet, options)) {
        const name = options.times.length > 1 ? `${stemOf(input)} ${time} s` : stemOf(input)
        const target = intoFolder ? join(options.out, `${name}.png`) : options.out
        if (written.has(target)) throw new Failure(`${input}: ${target} was written for another input already`)
        const camera = options.camera ? shotOf(puppet, pose) : null
        const size = { width: width ?? (camera ?? puppet.canvas).width, background: background ?? null }
        const seen = camera ? throughCamera(camera) : {}
        writeOutput(target, renderPng(CK, frame, { ...size, ...seen, assets: (hash) => assets.get(hash) }))
        written.add(target)
      }
    } catch (error) {
      const line = lineOf(error)
      failures.push(line.startsWith(`${input}:`) ? line : `${input}: ${line}`)
    }
  }
  return failures
}

/** The camera as it is in a pose. Throws Failure where the puppet has none. */
function shotOf(puppet: Puppet, pose: Readonly<Record<string, number>>): Camera {
  const camera = cameraIn(puppet, pose)
  if (!camera) throw new Failure('this puppet has no camera; leave --camera out')
  return camera
}

function readWidth(text: string): number {
  const width = Number(text)
  if (!Number.isInteger(width) || width < 1) throw new Failure(`--width ${text}: a width is a whole number of pixels`)
  return width
}

function readColour(text: string): string {
  const colour = parseColour(text)
  if (!colour) throw new Failure(`--background ${text}: this is not a colour`)
  return colour.colour
}
