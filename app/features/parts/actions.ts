/** What can be done with selected parts. */
import { freshId } from '@marionette/core/kernel/ids'
import { duplicateParts, moveParts, ungroupParts } from '@marionette/core/parts/arrange'
import { lockPart } from '@marionette/core/parts/marks'
import { deleteBone } from '@marionette/core/bones/commands'
import { deletePart, groupParts, showPart } from '@marionette/core/parts/commands'
import { partPath, partsBelow, topmostParts } from '@marionette/core/parts/tree'
import { openPuppet, perform } from '../../editor/document'
import { addDrawing, addGroup } from './adding'
import { openPanel, selectNothing, selectParts, setTool, useSession } from '../../editor/session'
import { edit } from '@marionette/core/kernel/command'
import type { Action } from '../../panels/action'
import { anyChosen, chosen, movable } from '../../panels/chosen'
import type { Editor } from '../../editor/editor'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

function removeSelected(editor: Editor): void {
  const parts = movable(editor)
  const bones = chosen(editor, 'bone')
  if (bones.length > 0)
    perform(
      editor,
      bones.map((bone) => edit(deleteBone, { bone, withChildren: false })),
    )
  else if (parts.length > 0)
    perform(
      editor,
      topmostParts(openPuppet(editor), parts).map((part) => edit(deletePart, { part })),
    )
  selectNothing(editor)
}

/** Puts the selected parts into a group; those of other groups come to the first one's first. */
function groupSelected(editor: Editor): void {
  const id = freshId('part')
  const puppet = openPuppet(editor)
  const parts = topmostParts(puppet, movable(editor))
  const parent = sure(partOf(puppet, nth(parts, 0)).parent)
  const isSpread = parts.some((p) => partOf(puppet, p).parent !== parent)
  const index = partOf(puppet, parent).children.indexOf(nth(parts, 0)) + 1
  const gather = isSpread ? [edit(moveParts, { parts, parent, index })] : []
  if (perform(editor, [...gather, edit(groupParts, { parts, id, name: 'Group' })])) {
    selectParts(editor, id)
    useSession.of(editor).setState({ renaming: id })
  }
}

/** Selected groups that are not the topmost part. */
const chosenGroups = (editor: Editor): string[] => movable(editor).filter((id) => openPuppet(editor).parts[id]?.content.kind === 'group')

function ungroupSelected(editor: Editor): void {
  const groups = chosenGroups(editor)
  const inside = groups.flatMap((id) => partOf(openPuppet(editor), id).children)
  if (perform(editor, [edit(ungroupParts, { parts: groups })])) selectParts(editor, ...inside)
}

function duplicateSelected(editor: Editor): void {
  const before = new Set(Object.keys(openPuppet(editor).parts))
  const tops = topmostParts(openPuppet(editor), movable(editor))
  if (!perform(editor, [edit(duplicateParts, { parts: tops, prefix: freshId('copy') })])) return
  const { parts } = openPuppet(editor)
  selectParts(editor, ...Object.keys(parts).filter((id) => !before.has(id) && before.has(recordOf(parts, id).parent ?? '')))
}

function toggleLocked(editor: Editor): void {
  const parts = movable(editor)
  const isAllLocked = parts.every((id) => partOf(openPuppet(editor), id).locked)
  perform(editor, [edit(lockPart, { parts, locked: !isAllLocked })], isAllLocked ? 'Unlock' : 'Lock')
}

function toggleVisible(editor: Editor): void {
  const parts = movable(editor)
  const isAllShown = parts.every((id) => partOf(openPuppet(editor), id).visible)
  perform(editor, [edit(showPart, { parts, visible: !isAllShown })], isAllShown ? 'Hide' : 'Show')
}

/** Hides every drawing that does not belong to the selection; with only the selection showing, shows all again. */
function showAlone(editor: Editor): void {
  const puppet = openPuppet(editor)
  const kept = new Set(movable(editor).flatMap((id) => [...partPath(puppet, id), ...partsBelow(puppet, id)].map((p) => p.id)))
  const others = Object.values(puppet.parts).filter((p) => !kept.has(p.id) && kept.has(p.parent ?? ''))
  const isAlone = others.every((p) => !p.visible)
  if (others.length === 0) return
  perform(editor, [edit(showPart, { parts: others.map((p) => p.id), visible: isAlone })], isAlone ? 'Show all again' : 'Show alone')
}

export const PART_ACTIONS: readonly Action[] = [
  {
    id: 'add.group',
    menu: { stage: 1 },
    label: 'New group',
    words: 'folder',
    group: 'Parts and bones',
    run: ({ editor }) => void addGroup(editor),
  },
  {
    id: 'add.drawing',
    menu: { stage: 1 },
    label: 'New drawing',
    words: 'layer shape vector empty',
    group: 'Parts and bones',
    run: ({ editor, go }) => {
      if (!addDrawing(editor)) return
      setTool(editor, 'shape', 'pen')
      go('shape')
    },
  },
  {
    id: 'rename',
    menu: { part: 1, bone: 1 },
    label: 'Rename',
    group: 'Parts and bones',
    keys: 'f2',
    enabled: (editor) => useSession.of(editor).getState().selection.ids.length === 1,
    run: ({ editor }) =>
      useSession.of(editor).setState((s) => ({ renaming: nth(s.selection.ids, 0), tree: s.selection.kind === 'bone' ? 'bones' : 'parts' })),
  },
  {
    id: 'delete',
    menu: { part: 4, bone: 4 },
    label: 'Delete what is selected',
    group: 'Parts and bones',
    keys: 'delete, backspace',
    enabled: anyChosen,
    run: ({ editor }) => removeSelected(editor),
  },
  {
    id: 'group',
    menu: { part: 2 },
    label: 'Group parts',
    group: 'Parts and bones',
    keys: 'mod+g',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => groupSelected(editor),
  },
  {
    id: 'show',
    menu: { part: 3 },
    label: 'Show or hide parts',
    group: 'Parts and bones',
    keys: 'v',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => toggleVisible(editor),
  },
  {
    id: 'showAlone',
    menu: { part: 3 },
    label: 'Show alone, or all again',
    group: 'Parts and bones',
    keys: 'shift+v',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => showAlone(editor),
  },
  {
    id: 'ungroup',
    menu: { part: 2 },
    label: 'Ungroup',
    group: 'Parts and bones',
    keys: 'mod+shift+g',
    enabled: (editor) => chosenGroups(editor).length > 0,
    run: ({ editor }) => ungroupSelected(editor),
  },
  {
    id: 'duplicate',
    menu: { part: 2 },
    label: 'Duplicate',
    group: 'Parts and bones',
    keys: 'mod+shift+d',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => duplicateSelected(editor),
  },
  {
    id: 'lock',
    menu: { part: 3 },
    label: 'Lock or unlock',
    group: 'Parts and bones',
    keys: 'l',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => toggleLocked(editor),
  },
  {
    id: 'renameMany',
    menu: { part: 1 },
    label: 'Rename several…',
    group: 'Parts and bones',
    keys: 'shift+f2',
    enabled: (editor) => movable(editor).length > 0,
    run: ({ editor }) => openPanel(editor, 'rename'),
  },
  { id: 'names', label: 'Whose left and right…', group: 'Parts and bones', run: ({ editor }) => openPanel(editor, 'names') },
]
