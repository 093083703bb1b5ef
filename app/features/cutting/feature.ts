/** Cutting in the interface. */
import { inBelts, type Feature } from '../../panels/feature'
import { CUTTING_ACTIONS } from './actions'
import { CutBar } from './CutBar'
import { cutTool } from './cutTool'
import { removeStrays } from './strays'

export const cutting: Feature = {
  name: 'cutting',
  tools: inBelts(cutTool, { parts: 40 }),
  bars: [CutBar],
  actions: CUTTING_ACTIONS,
  mends: { 'stray-piece': { label: 'Remove', run: (editor, { target }) => void removeStrays(editor, target.id) } },
}
