/** The toolbelt of each bench. */
import { setTool, useSession, type BenchId } from '../../state/session'
import { bindTool } from './bind'
import { moveBonesTool } from './bones'
import { cutTool } from './cut'
import { deformTool } from './deform'
import { drawBonesTool } from './drawBones'
import { jointTool } from './joint'
import { figureTool, freehandTool, penTool } from './drawing'
import { limitsTool } from './limits'
import { maskTool } from './mask'
import { paintTool } from './paint'
import { pivotTool } from './pivot'
import { pointsTool } from './points'
import { pullTool } from './pull'
import { homeTool, movePartTool } from './place'
import { poseTool } from './pose'
import { selectTool } from './select'
import { targetTool } from './target'
import type { Tool } from './tool'
import { weighTool } from './weigh'

export const TOOLBELTS: Readonly<Record<BenchId, readonly Tool[]>> = {
  parts: [selectTool, poseTool, movePartTool, cutTool, jointTool],
  bones: [moveBonesTool, drawBonesTool, pivotTool, homeTool, limitsTool, bindTool, weighTool, targetTool],
  shape: [poseTool, movePartTool, pointsTool, penTool, freehandTool, figureTool, pullTool, paintTool, deformTool],
  face: [poseTool, selectTool, movePartTool, pointsTool, maskTool],
  rehearse: [poseTool, movePartTool],
  send: [poseTool, movePartTool],
}

/** Lays the tool in hand down and takes another one. */
export function takeTool(bench: BenchId, tool: string): void {
  layDown(bench)
  setTool(bench, tool)
}

/** Ends what the tool of a bench has in progress. */
export function layDown(bench: BenchId): void {
  const held = toolOf(bench)
  held.cancel()
  held.leave?.()
}

/** The tool in hand at a bench. */
export function toolOf(bench: BenchId): Tool {
  const belt = TOOLBELTS[bench]
  return belt.find((t) => t.id === useSession.getState().tools[bench]) ?? belt[0]!
}
