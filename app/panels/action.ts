/** Actions: what can be done by key or from the command search. */
import type { Editor } from '../editor/editor'
import type { StageView } from '../stage/stageView'

/** What actions need of the page around them. */
export interface ActionContext {
  readonly editor: Editor
  readonly view: () => StageView | null
  readonly go: (path: string) => void
}

/** What a menu on the secondary button is about. */
export type MenuKind = 'part' | 'bone' | 'stage'

export interface Action {
  readonly id: string
  readonly label: string
  /** Where it is, where that is not its group. */
  readonly place?: string
  readonly group: 'Edit' | 'Parts and bones' | 'Deform' | 'Responses' | 'Face' | 'Pose' | 'Clips' | 'View' | 'Tools' | 'Go to' | 'Export'
  /** Other words by which people look for it. */
  readonly words?: string
  /** Keys joined by a plus, ways divided by commas: letters and signs (plus, minus, equal, question) as printed, digits by place. */
  readonly keys?: string
  /** Whether the keys also count in a number field that was taken over. */
  readonly inFields?: boolean
  /** The number of a tool in the belt, whose keys the belt has. */
  readonly belt?: number
  /** In which menus on the secondary button it stands, of parts, bones or the stage, and in which block of each. */
  readonly menu?: Readonly<Partial<Record<MenuKind, number>>>
  readonly enabled?: (editor: Editor) => boolean
  readonly run: (context: ActionContext) => void
}
