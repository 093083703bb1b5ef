/** The one list of what can be done to a puppet. */
import * as arrange from './arrange'
import * as artwork from './artwork'
import * as binds from './binds'
import * as boneLines from './boneLines'
import * as bones from './bones'
import type { Command } from './command'
import * as constraints from './constraints'
import * as controls from './controls'
import * as cutting from './cutting'
import * as deformers from './deformers'
import * as joints from './joints'
import * as layering from './layering'
import * as mirror from './mirror'
import * as marks from './marks'
import * as nesting from './nesting'
import * as palette from './palette'
import * as parts from './parts'
import * as pose from './pose'
import * as puppet from './puppet'
import * as responses from './responses'
import * as savedPoses from './savedPoses'
import * as sheets from './sheets'
import * as skeleton from './skeleton'
import * as swaps from './swaps'
import * as twins from './twins'
import * as views from './views'

const isCommand = (value: unknown): value is Command => typeof value === 'object' && value !== null && 'apply' in value && 'schema' in value

/** Every command by its name. */
export const COMMANDS: ReadonlyMap<string, Command> = new Map(
  [
    puppet,
    parts,
    arrange,
    artwork,
    marks,
    layering,
    nesting,
    bones,
    boneLines,
    skeleton,
    constraints,
    deformers,
    binds,
    pose,
    cutting,
    joints,
    twins,
    views,
    sheets,
    palette,
    controls,
    savedPoses,
    responses,
    mirror,
    swaps,
  ].flatMap((module) =>
    Object.values<unknown>(module)
      .filter(isCommand)
      .map((c) => [c.name, c] as const),
  ),
)
