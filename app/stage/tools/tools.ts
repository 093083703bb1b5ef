/** The toolbelt of each bench. */
import { useSession, type BenchId } from '../../state/session'
import { bindTool } from './bind'
import { moveBonesTool } from './bones'
import { drawBonesTool } from './drawBones'
import { limitsTool } from './limits'
import { pivotTool } from './pivot'
import { homeTool, movePartTool } from './place'
import { poseTool } from './pose'
import { selectTool } from './select'
import type { Tool } from './tool'

export const TOOLBELTS: Readonly<Record<BenchId, readonly Tool[]>> = {
  parts: [selectTool, poseTool, movePartTool],
  bones: [moveBonesTool, drawBonesTool, pivotTool, homeTool, limitsTool, bindTool],
  shape: [poseTool, movePartTool],
  face: [poseTool, movePartTool],
  rehearse: [poseTool, movePartTool],
  send: [poseTool, movePartTool],
}

/** The tool in hand at a bench. */
export function toolOf(bench: BenchId): Tool {
  const belt = TOOLBELTS[bench]
  return belt.find((t) => t.id === useSession.getState().tools[bench]) ?? belt[0]!
}
