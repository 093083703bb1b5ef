/** Everything that can be done by key or from the command search, in one table. */
import { freshId } from '@marionette/core/document/ids'
import { duplicateParts, moveParts, ungroupParts } from '@marionette/core/edit/arrange'
import { lockPart } from '@marionette/core/edit/marks'
import { deleteBone } from '@marionette/core/edit/bones'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import { lockBones } from '@marionette/core/edit/boneLines'
import { edit } from '@marionette/core/edit/command'
import { deletePart, groupParts, showPart } from '@marionette/core/edit/parts'
import { resetPose } from '@marionette/core/edit/pose'
import { addressesOf, addressesOfPart, movedChannels } from '@marionette/core/document/channels'
import { frameBounds } from '@marionette/core/rig/probe'
import { partPath, partsBelow, partsOfBone, topmostParts } from '@marionette/core/document/tree'
import { BENCHES } from '../benches/benches'
import { repeatSending } from '../cutting/sending'
import { splitLinesOf } from '../cutting/filling'
import { makeView, stepView } from '../views/showing'
import { joinParts, makeProposedJoints } from '../joints/making'
import { useCut } from '../state/cut'
import {
  chainThrough,
  copyBones,
  hasCopiedBones,
  mirrorSelected,
  pasteCopied,
  splitSelected,
  straightenSelected,
} from '../details/boneMaking'
import { putOn } from '../details/DeformersGroup'
import { openPuppet, perform, redo, undo } from '../state/document'
import { useTouch } from '../state/touch'
import { openPanel, selectNothing, selectParts, setTheme, useSession } from '../state/session'
import { FACE_ACTIONS } from './faceActions'
import { RECORD_ACTIONS } from './recordActions'
import type { StageView } from '../stage/stageView'
import { zoomAt } from '../stage/camera'
import { takeTool, TOOLBELTS } from '../stage/tools/tools'

/** What actions need of the page around them. */
export interface ActionContext {
  readonly view: () => StageView | null
  readonly go: (path: string) => void
}

export interface Action {
  readonly id: string
  readonly label: string
  readonly group: 'Edit' | 'Parts and bones' | 'Deform' | 'Responses' | 'Face' | 'Pose' | 'View' | 'Tools' | 'Go to' | 'Take away'
  /** As react-hotkeys-hook writes them. */
  readonly keys?: string
  /** As people read them. */
  readonly shown?: string
  readonly enabled?: () => boolean
  readonly run: (context: ActionContext) => void
}

const session = useSession.getState
const chosen = (kind: 'part' | 'bone'): readonly string[] => (session().selection.kind === kind ? session().selection.ids : [])
const hasViews = (): boolean => openPuppet().views.length > 1
const anyChosen = (): boolean => session().selection.ids.length > 0
/** Selected parts that may be taken away or put into groups: all but the topmost. */
const movable = (): string[] => chosen('part').filter((id) => id !== openPuppet().root)

function removeSelected(): void {
  const parts = movable()
  const bones = chosen('bone')
  if (bones.length > 0) perform(bones.map((bone) => edit(deleteBone, { bone, withChildren: false })))
  else if (parts.length > 0) perform(topmostParts(openPuppet(), parts).map((part) => edit(deletePart, { part })))
  selectNothing()
}

/** Puts the selected parts into a group; those of other groups come to the first one's first. */
function groupSelected(): void {
  const id = freshId('part')
  const puppet = openPuppet()
  const parts = topmostParts(puppet, movable())
  const parent = puppet.parts[parts[0]!]!.parent!
  const isSpread = parts.some((p) => puppet.parts[p]!.parent !== parent)
  const index = puppet.parts[parent]!.children.indexOf(parts[0]!) + 1
  const gather = isSpread ? [edit(moveParts, { parts, parent, index })] : []
  if (perform([...gather, edit(groupParts, { parts, id, name: 'Group' })])) {
    selectParts(id)
    useSession.setState({ renaming: id })
  }
}

/** Whether a part that is selected is still there and shows artwork of its own. */
const isDrawn = (id: string): boolean => (openPuppet().parts[id]?.content.kind ?? 'group') !== 'group'

/** Selected groups that are not the topmost part. */
const chosenGroups = (): string[] => movable().filter((id) => openPuppet().parts[id]?.content.kind === 'group')

function ungroupSelected(): void {
  const groups = chosenGroups()
  const inside = groups.flatMap((id) => openPuppet().parts[id]!.children)
  if (perform([edit(ungroupParts, { parts: groups })])) selectParts(...inside)
}

function duplicateSelected(): void {
  const before = new Set(Object.keys(openPuppet().parts))
  const tops = topmostParts(openPuppet(), movable())
  if (!perform([edit(duplicateParts, { parts: tops, prefix: freshId('copy') })])) return
  const { parts } = openPuppet()
  selectParts(...Object.keys(parts).filter((id) => !before.has(id) && before.has(parts[id]!.parent ?? '')))
}

function toggleLocked(): void {
  const parts = movable()
  const isAllLocked = parts.every((id) => openPuppet().parts[id]!.locked)
  perform([edit(lockPart, { parts, locked: !isAllLocked })], isAllLocked ? 'Unlock' : 'Lock')
}

function toggleVisible(): void {
  const parts = movable()
  const isAllShown = parts.every((id) => openPuppet().parts[id]!.visible)
  perform([edit(showPart, { parts, visible: !isAllShown })], isAllShown ? 'Hide' : 'Show')
}

/** Hides every drawing that does not belong to the selection; with only the selection showing, shows all again. */
function showAlone(): void {
  const puppet = openPuppet()
  const kept = new Set(movable().flatMap((id) => [...partPath(puppet, id), ...partsBelow(puppet, id)].map((p) => p.id)))
  const others = Object.values(puppet.parts).filter((p) => !kept.has(p.id) && kept.has(p.parent ?? ''))
  const isAlone = others.every((p) => !p.visible)
  if (others.length === 0) return
  perform([edit(showPart, { parts: others.map((p) => p.id), visible: isAlone })], isAlone ? 'Show all again' : 'Show alone')
}

/** Brings what is selected back to rest: its own channels, or with a part the channels of all in it. */
function resetSelected(): void {
  const puppet = openPuppet()
  const bones = chosen('bone').flatMap((id) => addressesOf('bone', id))
  const parts = chosen('part').flatMap((id) => partsBelow(puppet, id).flatMap(addressesOfPart))
  perform([edit(resetPose, { channels: [...bones, ...parts].filter((a) => a in puppet.pose) })])
}

/** Bones in a chain that is laid through a part by a command; the details take any number. */
const CHAIN_BONES = 4

function toggleBonesLocked(): void {
  const bones = [...chosen('bone')]
  const locked = !bones.every((id) => openPuppet().bones[id]!.locked)
  perform([edit(lockBones, { bones, locked })], locked ? 'Lock bones' : 'Unlock bones')
}

function frameSelected({ view }: ActionContext): void {
  const stage = view()
  const model = stage?.model()
  if (!stage || !model) return
  const puppet = openPuppet()
  const parts = [...chosen('part'), ...chosen('bone').flatMap((bone) => partsOfBone(puppet, bone).map((p) => p.id))]
  const box = parts.length > 0 ? frameBounds(model.frame, new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => p.id)))) : null
  if (box) stage.frameBox(box)
  else stage.frameAll()
}

function zoomBy(factor: number) {
  return ({ view }: ActionContext): void => {
    const stage = view()
    if (stage) stage.setCamera(zoomAt(stage.camera, { x: stage.size.width / 2, y: stage.size.height / 2 }, factor))
  }
}

/** One to one, around the middle of the stage. */
function actualSize({ view }: ActionContext): void {
  const stage = view()
  if (stage) zoomBy(1 / stage.camera.zoom)({ view: () => stage, go: () => undefined })
}

const benchActions: Action[] = BENCHES.map((bench, i) => ({
  id: `go.${bench.id}`,
  label: `To ${bench.name}`,
  group: 'Go to',
  keys: `shift+${i + 1}`,
  shown: `Shift ${i + 1}`,
  run: ({ go }) => go(bench.id),
}))

const toolActions: Action[] = Array.from({ length: 9 }, (_, i) => ({
  id: `tool.${i + 1}`,
  label: `Tool ${i + 1} of the belt`,
  group: 'Tools',
  keys: `${i + 1}`,
  shown: `${i + 1}`,
  enabled: () => TOOLBELTS[session().bench][i] !== undefined,
  run: () => takeTool(session().bench, TOOLBELTS[session().bench][i]!.id),
}))

export const ACTIONS: readonly Action[] = [
  { id: 'undo', label: 'Undo', group: 'Edit', keys: 'mod+z', shown: 'Ctrl Z', run: undo },
  { id: 'redo', label: 'Redo', group: 'Edit', keys: 'mod+shift+z, mod+y', shown: 'Ctrl Shift Z', run: redo },
  { id: 'history', label: 'Show history', group: 'Edit', keys: 'h', shown: 'H', run: () => openPanel('history') },
  {
    id: 'rename',
    label: 'Rename',
    group: 'Parts and bones',
    keys: 'f2',
    shown: 'F2',
    enabled: () => session().selection.ids.length === 1,
    run: () => useSession.setState((s) => ({ renaming: s.selection.ids[0]!, tree: s.selection.kind === 'bone' ? 'bones' : 'parts' })),
  },
  {
    id: 'delete',
    label: 'Delete what is selected',
    group: 'Parts and bones',
    keys: 'delete, backspace',
    shown: 'Delete',
    enabled: anyChosen,
    run: removeSelected,
  },
  {
    id: 'group',
    label: 'Group parts',
    group: 'Parts and bones',
    keys: 'mod+g',
    shown: 'Ctrl G',
    enabled: () => movable().length > 0,
    run: groupSelected,
  },
  {
    id: 'join',
    label: 'Join two parts',
    group: 'Parts and bones',
    keys: 'j',
    shown: 'J',
    enabled: () => movable().length === 2,
    run: () => void joinParts(movable()[0]!, movable()[1]!),
  },
  {
    id: 'propose',
    label: 'Propose joints',
    group: 'Parts and bones',
    enabled: () => session().bench === 'parts',
    run: () => void makeProposedJoints(),
  },
  {
    id: 'splitLines',
    label: 'Split line and colour',
    group: 'Parts and bones',
    enabled: () => movable().length === 1 && isDrawn(movable()[0]!),
    run: () => void splitLinesOf(movable()[0]!, LINE_THRESHOLD),
  },
  {
    id: 'repeatCut',
    label: 'Cut as the last piece',
    group: 'Parts and bones',
    keys: 'r',
    shown: 'R',
    enabled: () => useCut.getState().area !== null && useCut.getState().last !== null,
    run: repeatSending,
  },
  {
    id: 'mirror',
    label: 'Mirror bones to the other side',
    group: 'Parts and bones',
    enabled: () => chosen('bone').length > 0,
    run: () => mirrorSelected(chosen('bone')),
  },
  {
    id: 'split',
    label: 'Split bones in two',
    group: 'Parts and bones',
    enabled: () => chosen('bone').length > 0,
    run: () => splitSelected(chosen('bone'), 2),
  },
  {
    id: 'straighten',
    label: 'Straighten chain of bones',
    group: 'Parts and bones',
    enabled: () => chosen('bone').length > 1,
    run: () => straightenSelected(chosen('bone')),
  },
  {
    id: 'chain',
    label: 'Chain of bones through a part',
    group: 'Parts and bones',
    enabled: () => chosen('part').length === 1,
    run: () => void chainThrough(chosen('part')[0]!, CHAIN_BONES),
  },
  {
    id: 'copyBones',
    label: 'Copy bones',
    group: 'Parts and bones',
    keys: 'mod+c',
    shown: 'Ctrl C',
    enabled: () => chosen('bone').length > 0,
    run: () => copyBones(chosen('bone')),
  },
  {
    id: 'pasteBones',
    label: 'Paste bones',
    group: 'Parts and bones',
    keys: 'mod+v',
    shown: 'Ctrl V',
    enabled: hasCopiedBones,
    run: () => pasteCopied(chosen('bone')[0] ?? null),
  },
  {
    id: 'lockBones',
    label: 'Lock or unlock bones',
    group: 'Parts and bones',
    enabled: () => chosen('bone').length > 0,
    run: toggleBonesLocked,
  },
  ...(['cage', 'bend', 'pins'] as const).map((kind): Action => ({
    id: `deform.${kind}`,
    label: { cage: 'Put a cage on the part', bend: 'Put a bend through the part', pins: 'Put pins in the part' }[kind],
    group: 'Deform',
    enabled: () => chosen('part').length === 1 || (kind === 'cage' && chosen('part').length > 0),
    run: () => void putOn(chosen('part')[0]!, kind),
  })),
  {
    id: 'show',
    label: 'Show or hide parts',
    group: 'Parts and bones',
    keys: 'v',
    shown: 'V',
    enabled: () => movable().length > 0,
    run: toggleVisible,
  },
  {
    id: 'showAlone',
    label: 'Show alone, or all again',
    group: 'Parts and bones',
    keys: 'shift+v',
    shown: 'Shift V',
    enabled: () => movable().length > 0,
    run: showAlone,
  },
  {
    id: 'ungroup',
    label: 'Ungroup',
    group: 'Parts and bones',
    keys: 'mod+shift+g',
    shown: 'Ctrl Shift G',
    enabled: () => chosenGroups().length > 0,
    run: ungroupSelected,
  },
  {
    id: 'duplicate',
    label: 'Duplicate',
    group: 'Parts and bones',
    keys: 'mod+shift+d',
    shown: 'Ctrl Shift D',
    enabled: () => movable().length > 0,
    run: duplicateSelected,
  },
  {
    id: 'lock',
    label: 'Lock or unlock',
    group: 'Parts and bones',
    keys: 'l',
    shown: 'L',
    enabled: () => movable().length > 0,
    run: toggleLocked,
  },
  {
    id: 'renameMany',
    label: 'Rename several…',
    group: 'Parts and bones',
    keys: 'shift+f2',
    shown: 'Shift F2',
    enabled: () => movable().length > 0,
    run: () => openPanel('rename'),
  },
  { id: 'names', label: 'Whose left and right…', group: 'Parts and bones', run: () => openPanel('names') },
  { id: 'fit', label: 'Fit a template…', group: 'Parts and bones', keys: 't', shown: 'T', run: () => openPanel('fit') },
  {
    id: 'update',
    label: 'Take in a new version of the artwork…',
    group: 'Parts and bones',
    keys: 'u',
    shown: 'U',
    run: () => openPanel('update'),
  },
  { id: 'cells', label: 'Split a sheet into views…', group: 'Parts and bones', run: () => openPanel('cells') },
  {
    id: 'snap',
    label: 'Snap to points, pivots and guides',
    group: 'View',
    keys: 'shift+g',
    shown: 'Shift G',
    run: () => useTouch.setState((s) => ({ snaps: !s.snaps })),
  },
  { id: 'view.add', label: 'Add a view', group: 'View', run: makeView },
  { id: 'view.next', label: 'Show the next view', group: 'View', keys: 'n', shown: 'N', enabled: hasViews, run: () => stepView(1) },
  {
    id: 'view.previous',
    label: 'Show the view before',
    group: 'View',
    keys: 'shift+n',
    shown: 'Shift N',
    enabled: hasViews,
    run: () => stepView(-1),
  },
  {
    id: 'mirrorView',
    label: 'See the stage in a mirror',
    group: 'View',
    keys: 'shift+m',
    shown: 'Shift M',
    run: () => useSession.setState((s) => ({ mirrored: !s.mirrored })),
  },
  { id: 'nothing', label: 'Select nothing', group: 'Edit', keys: 'mod+d', shown: 'Ctrl D', enabled: anyChosen, run: selectNothing },
  { id: 'pose.reset', label: 'Selection back to rest', group: 'Pose', keys: '0', shown: '0', enabled: anyChosen, run: resetSelected },
  {
    id: 'pose.resetAll',
    label: 'Whole puppet back to rest',
    group: 'Pose',
    keys: 'shift+0',
    shown: 'Shift 0',
    enabled: () => movedChannels(openPuppet()).length > 0,
    run: () => void perform([edit(resetPose, { channels: null })]),
  },
  { id: 'frame', label: 'Frame the selection', group: 'View', keys: 'f', shown: 'F', run: frameSelected },
  {
    id: 'frameAll',
    label: 'Frame the whole puppet',
    group: 'View',
    keys: 'shift+f',
    shown: 'Shift F',
    run: ({ view }) => view()?.frameAll(),
  },
  {
    id: 'weights',
    label: 'Show or hide weights',
    group: 'View',
    keys: 'w',
    shown: 'W',
    run: () => useSession.setState((s) => ({ weights: !s.weights })),
  },
  { id: 'zoomIn', label: 'Nearer', group: 'View', keys: 'equal, plus', shown: '+', run: zoomBy(1.25) },
  { id: 'zoomOut', label: 'Farther', group: 'View', keys: 'minus', shown: '−', run: zoomBy(0.8) },
  { id: 'zoomActual', label: 'Actual size', group: 'View', run: actualSize },
  {
    id: 'theme',
    label: 'Change theme',
    group: 'View',
    run: () => setTheme(session().theme === 'daylight' ? 'footlights' : 'daylight'),
  },
  { id: 'export.png', label: 'Take away a PNG', group: 'Take away', run: ({ go }) => go('send') },
  { id: 'export.archive', label: 'Take away a puppet archive', group: 'Take away', run: ({ go }) => go('send') },
  { id: 'library', label: 'To the library', group: 'Go to', run: ({ go }) => go('/') },
  { id: 'search', label: 'Search commands', group: 'Edit', keys: 'mod+k', shown: 'Ctrl K', run: () => openPanel('search') },
  { id: 'shortcuts', label: 'List of shortcuts', group: 'Edit', keys: 'shift+slash', shown: '?', run: () => openPanel('shortcuts') },
  ...RECORD_ACTIONS,
  ...FACE_ACTIONS,
  ...benchActions,
  ...toolActions,
]
