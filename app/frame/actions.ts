/** Everything that can be done by key or from the command search: what the frame itself can do, and what each feature brings. */
import { frameBounds } from '@marionette/core/puppet/probe'
import { partsBelow } from '@marionette/core/parts/tree'
import { openPuppet, redo, undo } from '../editor/document'
import { saveNow } from '../editor/saving/autosave'
import { offerHeldKeys, openPanel, selectNothing, setTheme, useSession } from '../editor/session'
import { zoomAt } from '../stage/camera'
import { partsOfBone } from '@marionette/core/binds/tree'
import { BENCHES } from './benches'
import { takeTool, TOOLBELTS } from './tools'
import { FEATURES } from '../features/features'
import type { Action, ActionContext } from '../panels/action'
import { anyChosen, chosen } from '../panels/chosen'
import { nth } from '@marionette/core/kernel/sure'

function frameSelected({ editor, view }: ActionContext): void {
  const stage = view()
  const model = stage?.model()
  if (!stage || !model) return
  const puppet = openPuppet(editor)
  const parts = [...chosen(editor, 'part'), ...chosen(editor, 'bone').flatMap((bone) => partsOfBone(puppet, bone).map((p) => p.id))]
  const box = parts.length > 0 ? frameBounds(model.frame, new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => p.id)))) : null
  if (box) stage.frameBox(box)
  else stage.frameAll()
}

/** Whether details are about a joint or a control. */
const isLookedAt = ({ joint, control }: { joint: string | null; control: string | null }): boolean => joint !== null || control !== null

function zoomBy(factor: number) {
  return ({ view }: ActionContext): void => {
    const stage = view()
    if (stage) stage.setCamera(zoomAt(stage.camera, { x: stage.size.width / 2, y: stage.size.height / 2 }, factor))
  }
}

/** One to one, around the middle of the stage. */
function actualSize({ view }: ActionContext): void {
  const stage = view()
  if (stage) zoomBy(1 / stage.camera.zoom)({ editor: stage.editor, view: () => stage, go: () => undefined })
}

const FRAME_ACTIONS: readonly Action[] = [
  { id: 'undo', label: 'Undo', group: 'Edit', keys: 'mod+z', inFields: true, run: ({ editor }) => undo(editor) },
  {
    id: 'redo',
    label: 'Redo',
    group: 'Edit',
    keys: 'mod+shift+z, mod+y',
    inFields: true,
    run: ({ editor }) => redo(editor),
  },
  { id: 'save', label: 'Save now', group: 'Edit', keys: 'mod+s', run: ({ editor }) => saveNow(editor) },
  { id: 'history', label: 'Show history', group: 'Edit', keys: 'h', run: ({ editor }) => openPanel(editor, 'history') },
  {
    id: 'nothing',
    label: 'Deselect',
    group: 'Edit',
    keys: 'mod+d',
    enabled: (editor) => anyChosen(editor) || isLookedAt(useSession.of(editor).getState()),
    run: ({ editor }) => selectNothing(editor),
  },
  {
    id: 'mirrorView',
    menu: { stage: 2 },
    label: 'Flip view',
    group: 'View',
    keys: 'shift+m',
    run: ({ editor }) => useSession.of(editor).setState((s) => ({ mirrored: !s.mirrored })),
  },
  {
    id: 'frame',
    menu: { part: 3, bone: 3 },
    label: 'Frame the selection',
    words: 'zoom to selected',
    group: 'View',
    keys: 'f',
    run: frameSelected,
  },
  {
    id: 'frameAll',
    menu: { stage: 2 },
    label: 'Frame the whole puppet',
    words: 'zoom fit to window',
    group: 'View',
    keys: 'shift+f',
    run: ({ view }) => view()?.frameAll(),
  },
  {
    id: 'zoomIn',
    label: 'Zoom in',
    words: 'larger magnify',
    group: 'View',
    keys: 'plus, equal, shift+plus',
    run: zoomBy(1.25),
  },
  { id: 'zoomOut', label: 'Zoom out', words: 'smaller', group: 'View', keys: 'minus', run: zoomBy(0.8) },
  { id: 'zoomActual', label: 'Actual size', words: 'zoom 100%', group: 'View', run: actualSize },
  {
    id: 'heldKeys',
    label: 'Show or hide Shift and Alt on the stage',
    words: 'touch pen tablet modifier keys settings',
    group: 'View',
    run: ({ editor }) => offerHeldKeys(editor, !useSession.of(editor).getState().offersHeldKeys),
  },
  {
    id: 'theme',
    label: 'Change theme',
    words: 'dark light mode settings colours',
    group: 'View',
    run: ({ editor }) => setTheme(editor, useSession.of(editor).getState().theme === 'daylight' ? 'footlights' : 'daylight'),
  },
  { id: 'library', label: 'To the library', group: 'Go to', run: ({ go }) => go('/') },
  {
    id: 'search',
    label: 'Search commands',
    group: 'Edit',
    keys: 'mod+k',
    run: ({ editor }) => openPanel(editor, 'search'),
  },
  {
    id: 'shortcuts',
    label: 'Shortcuts…',
    words: 'keys hotkeys keyboard settings help list remap',
    group: 'Edit',
    keys: 'question, shift+question',
    run: ({ editor }) => openPanel(editor, 'shortcuts'),
  },
]

const benchActions: Action[] = BENCHES.map((bench, i): Action => ({
  id: `go.${bench.id}`,
  label: `To ${bench.name}`,
  words: bench.words,
  group: 'Go to',
  keys: `shift+${i + 1}`,
  run: ({ go }) => go(bench.id),
}))

/** Every tool by its name, wherever it is: it comes to hand at its bench. */
const namedTools: Action[] = BENCHES.flatMap((bench) =>
  TOOLBELTS[bench.id].map((tool, i): Action => ({
    id: `tool.${bench.id}.${tool.id}`,
    label: `${tool.name} tool`,
    place: bench.name,
    words: `${tool.words ?? ''} ${tool.hint.flat().join(' ')}`,
    group: 'Tools',
    belt: i + 1,
    run: ({ editor, go }) => {
      go(bench.id)
      takeTool(editor, bench.id, tool.id)
    },
  })),
)

const toolActions: Action[] = Array.from({ length: 9 }, (_, i): Action => ({
  id: `tool.${i + 1}`,
  label: `Tool ${i + 1} of the belt`,
  group: 'Tools',
  keys: `${i + 1}`,
  enabled: (editor) => TOOLBELTS[useSession.of(editor).getState().bench][i] !== undefined,
  run: ({ editor }) =>
    takeTool(editor, useSession.of(editor).getState().bench, nth(TOOLBELTS[useSession.of(editor).getState().bench], i).id),
}))

/** What the command search finds: everything but the places of the belt, whose tools have names. */
export const SEARCHED: readonly Action[] = [...FRAME_ACTIONS, ...FEATURES.flatMap((f) => f.actions ?? []), ...benchActions, ...namedTools]

export const ACTIONS: readonly Action[] = [...SEARCHED, ...toolActions]
