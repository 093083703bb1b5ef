/** Keys of actions: as they come, or as the person has set them. The browser keeps those, for all puppets. */
import { editorStore, type Editor } from '../editor/editor'
import { store, storedJson } from '../editor/settings'
import { shownKeys } from '../ui/keys'
import type { Action } from './action'

interface Keymap {
  /** As they come, by actions. */
  readonly usual: Readonly<Record<string, string>>
  /** As they were set; nothing where an action is to have none. */
  readonly own: Readonly<Record<string, string>>
}

type Keyed = Pick<Action, 'id' | 'keys'>

const SETTING = 'keys'

const keptKeys = (): Keymap['own'] =>
  Object.fromEntries(Object.entries(storedJson(SETTING) ?? {}).filter((e): e is [string, string] => typeof e[1] === 'string'))

export const useKeymap = editorStore<Keymap>(() => ({ usual: {}, own: keptKeys() }))

/** The keys of an action, as tables write them; nothing where it has none. */
export const keysOf = ({ own }: Pick<Keymap, 'own'>, { id, keys = '' }: Keyed): string => own[id] ?? keys

/** The single ways of keys: each is pressed by itself. */
export const waysOf = (keys: string): string[] =>
  keys
    .split(',')
    .map((way) => way.trim())
    .filter(Boolean)

/** Actions that listen to one of these keys already. */
export function listeningTo<T extends Keyed>(map: Pick<Keymap, 'own'>, actions: readonly T[], keys: string, but: string): T[] {
  const ways = new Set(waysOf(keys))
  return actions.filter((a) => a.id !== but && waysOf(keysOf(map, a)).some((way) => ways.has(way)))
}

/** Keys that are left of some once others are taken from them. */
export const without = (keys: string, taken: string): string => {
  const gone = new Set(waysOf(taken))
  return waysOf(keys)
    .filter((way) => !gone.has(way))
    .join(', ')
}

/** Sets keys of actions; null gives one back those that it came with. */
export function setKeys(editor: Editor, changes: Readonly<Record<string, string | null>>): void {
  useKeymap.of(editor).setState(({ own, usual }) => {
    const next: Record<string, string> = { ...own }
    for (const [id, keys] of Object.entries(changes))
      if (keys === null || keys === (usual[id] ?? '')) delete next[id]
      else next[id] = keys
    store(SETTING, JSON.stringify(next))
    return { own: next }
  })
}

/** Tells the keymap which keys actions come with, so that what shows them need not know the actions. */
export const learnKeys = (editor: Editor, actions: readonly Keyed[]): void =>
  useKeymap.of(editor).setState({ usual: Object.fromEntries(actions.flatMap((a) => (a.keys ? [[a.id, a.keys]] : []))) })

/** The keys of an action for people. */
export const useKeysFor = (action: string): string | undefined =>
  useKeymap(({ own, usual }) => shownKeys(own[action] ?? usual[action] ?? '')) || undefined
