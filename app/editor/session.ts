/** What the interface shows: theme, selection, tool, folded rows. Nothing here belongs to the puppet. */
import { NO_FILTER, type PartFilter, type SortBy } from './partFilter'
import { editorStore, type Editor } from './editor'
import { store, stored, storedJson, storedYes } from './settings'

export type Theme = 'daylight' | 'footlights'
export type BenchId = 'parts' | 'bones' | 'shape' | 'face' | 'rehearse' | 'send'

/** What details and keys act on; a selection holds parts or bones, never both. */
export interface Selection {
  readonly kind: 'part' | 'bone'
  readonly ids: readonly string[]
}

export const NOTHING: Selection = { kind: 'part', ids: [] }

export type Panel =
  | 'search'
  | 'shortcuts'
  | 'history'
  | 'export'
  | 'rename'
  | 'names'
  | 'fit'
  | 'update'
  | 'cells'
  | 'wiring'
  | 'turn'
  | 'mouth'
  | 'eyes'
  | 'faces'
  | 'morphing'
  | 'rangeTest'
  | null

interface SessionState {
  theme: Theme
  bench: BenchId
  /** The tool last used in each bench. */
  tools: Readonly<Partial<Record<BenchId, string>>>
  selection: Selection
  /** The joint that details and the joint tool act on. */
  joint: string | null
  /** The control that details show. */
  control: string | null
  /** Whether controls are arranged rather than played. */
  arranging: boolean
  /** Bone or part under the pointer. */
  hover: Selection
  folded: ReadonlySet<string>
  shelfOpen: boolean
  /** Whether alternates beside the selected one show as outlines. */
  onion: boolean
  /** Whether weights show as heat and points in the colours of their bones. */
  weights: boolean
  panel: Panel
  /** Which tree the roster shows in the Bones bench. */
  tree: 'parts' | 'bones'
  /** Which list the roster shows where responses are worked on. */
  list: 'parts' | 'responses'
  /** Which list the roster shows in Rehearse. */
  acts: 'clips' | 'parts'
  /** Row whose name is being typed. */
  renaming: string | null
  /** Which rows of the part tree are listed, and how they are sorted. */
  partFilter: PartFilter
  partSort: SortBy
  /** Whether the stage is seen in a mirror, for checking. */
  mirrored: boolean
  /** Whether something is tried on the stage: the pose shows then, also where the rest usually does. */
  isTrying: boolean
  /** Whether bones lie over the artwork outside of Bones as well. */
  showBones: boolean
  /** Whether keys to be held are on the stage, for hands that have no keyboard; null until that is decided. Which of them are held there. */
  offersHeldKeys: boolean | null
  held: ReadonlySet<HeldKey>
}

/** Keys that change what a press on the stage does while they are held. */
export type HeldKey = 'Shift' | 'Alt'

const firstTheme = (): Theme => {
  const kept = stored('theme')
  if (kept === 'daylight' || kept === 'footlights') return kept
  return typeof matchMedia === 'function' && matchMedia('(prefers-color-scheme: dark)').matches ? 'footlights' : 'daylight'
}

export const useSession = editorStore<SessionState>(() => ({
  theme: firstTheme(),
  bench: 'parts',
  tools: {},
  selection: NOTHING,
  joint: null,
  control: null,
  arranging: false,
  hover: NOTHING,
  folded: foldedDetails(),
  shelfOpen: false,
  weights: false,
  onion: false,
  panel: null,
  tree: 'bones',
  list: 'parts',
  acts: 'clips',
  renaming: null,
  partFilter: NO_FILTER,
  partSort: 'order',
  mirrored: false,
  isTrying: false,
  showBones: storedYes('showBones') ?? false,
  offersHeldKeys: storedYes('offersHeldKeys'),
  held: new Set(),
}))

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset['theme'] = theme
}

/** Shows bones outside of Bones as well, or no longer. */
export function toggleBones(editor: Editor): void {
  const showBones = !useSession.of(editor).getState().showBones
  store('showBones', showBones ? 'yes' : 'no')
  useSession.of(editor).setState({ showBones, hover: NOTHING })
}

/** Shows keys to be held on the stage, or hides them. */
export function offerHeldKeys(editor: Editor, offersHeldKeys: boolean): void {
  store('offersHeldKeys', offersHeldKeys ? 'yes' : 'no')
  useSession.of(editor).setState({ offersHeldKeys, held: new Set() })
}

/** Holds a key on the stage until it is pressed there again. */
export function toggleHeld(editor: Editor, key: HeldKey): void {
  useSession.of(editor).setState((s) => {
    const held = new Set(s.held)
    if (!held.delete(key)) held.add(key)
    return { held }
  })
}

export function setTheme(editor: Editor, theme: Theme): void {
  store('theme', theme)
  applyTheme(theme)
  useSession.of(editor).setState({ theme })
}

export const selectParts = (editor: Editor, ...ids: string[]): void =>
  useSession.of(editor).setState({ selection: { kind: 'part', ids }, joint: null, control: null })
export const selectBones = (editor: Editor, ...ids: string[]): void =>
  useSession.of(editor).setState({ selection: { kind: 'bone', ids }, joint: null, control: null })
export const selectNothing = (editor: Editor): void => useSession.of(editor).setState({ selection: NOTHING, joint: null, control: null })
export const selectControl = (editor: Editor, control: string | null): void =>
  useSession.of(editor).setState({ selection: NOTHING, joint: null, control })

/** Folds the shelf of controls or unfolds it; folded, nothing is arranged any more. */
export function toggleShelf(editor: Editor): void {
  const { shelfOpen, arranging } = useSession.of(editor).getState()
  if (shelfOpen && arranging) selectControl(editor, null)
  useSession.of(editor).setState({ shelfOpen: !shelfOpen, arranging: arranging && !shelfOpen })
}

/** Adds a thing to the selection or takes it out; another kind starts anew. */
export function toggleSelected(editor: Editor, kind: Selection['kind'], id: string): void {
  const { selection } = useSession.of(editor).getState()
  const ids = selection.kind !== kind ? [id] : selection.ids.includes(id) ? selection.ids.filter((i) => i !== id) : [...selection.ids, id]
  useSession.of(editor).setState({ selection: { kind, ids }, joint: null, control: null })
}

/** Whether the stage shows the rest: where bones are made, but for painting weights, which is done in the pose. */
export const isRestShownIn = ({ bench, tools, isTrying }: Pick<SessionState, 'bench' | 'tools' | 'isTrying'>): boolean =>
  bench === 'bones' && tools.bones !== 'weigh' && !isTrying

/** Whether it shows the rest at this moment. */
export const isRestShown = (editor: Editor): boolean => isRestShownIn(useSession.of(editor).getState())

export const useTool = (bench: BenchId, fallback: string): string => useSession((s) => s.tools[bench] ?? fallback)
export const setTool = (editor: Editor, bench: BenchId, tool: string): void =>
  useSession.of(editor).setState((s) => ({ tools: { ...s.tools, [bench]: tool } }))
export const openPanel = (editor: Editor, panel: Panel): void => useSession.of(editor).setState({ panel })

export function toggleFolded(editor: Editor, id: string): void {
  useSession.of(editor).setState((s) => {
    const folded = new Set(s.folded)
    if (!folded.delete(id)) folded.add(id)
    if (id.startsWith(DETAILS)) store('foldedDetails', JSON.stringify([...folded].filter((f) => f.startsWith(DETAILS))))
    return { folded }
  })
}

/** What groups of details are folded by; they stay so, whatever puppet is open. Rows of the roster belong to one puppet. */
const DETAILS = 'group/'

export const detailsKey = (group: string): string => DETAILS + group

function foldedDetails(): ReadonlySet<string> {
  const kept = storedJson('foldedDetails')
  return new Set(Array.isArray(kept) ? kept.filter((f): f is string => typeof f === 'string') : [])
}
