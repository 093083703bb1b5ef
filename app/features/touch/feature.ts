/** Touching up drawings and meshes in the interface. */
import { forgetWithDrawing } from './settings'
import { inBelts, type Feature } from '../../panels/feature'
import { TOUCH_ACTIONS } from './actions'
import { figureTool, freehandTool, penTool } from './drawingTools'
import { paintTool } from './paintTool'
import { PaletteGroup } from './PaletteGroup'
import { pointsTool } from './pointsTool'
import { pullTool } from './pullTool'
import { TouchBar } from './TouchBar'

export const touch: Feature = {
  name: 'touch',
  connect: forgetWithDrawing,
  details: [
    { about: 'part', place: 40, Group: PaletteGroup },
    { about: 'puppet', place: 30, Group: PaletteGroup },
  ],
  tools: [
    ...inBelts(pointsTool, { shape: 30, face: 40, rehearse: 40 }),
    ...inBelts(penTool, { shape: 40 }),
    ...inBelts(freehandTool, { shape: 50 }),
    ...inBelts(figureTool, { shape: 60 }),
    ...inBelts(pullTool, { shape: 70, rehearse: 50 }),
    ...inBelts(paintTool, { shape: 80 }),
  ],
  bars: [TouchBar],
  actions: TOUCH_ACTIONS,
}
