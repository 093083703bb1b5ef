/**
 * An editor: one open puppet with all that is done to it. It is a value: whatever a part of the interface remembers, it remembers for one
 * editor, and two of them on one page know nothing of each other.
 *
 * What is remembered is declared beside what uses it, with what it begins as: `editorState` for anything, `editorStore` for what the
 * interface draws. It comes to be when it is first asked for.
 */
import { createContext, useContext } from 'react'
import type { Jobs } from '../jobs/client'
import { createStore, useStore, type StoreApi } from 'zustand'

/** Says things to the person that belong to no place on the screen. */
export interface Notify {
  (text: string, options?: NoteOptions): string | number
  error(text: string, options?: NoteOptions): string | number
  warning(text: string, options?: NoteOptions): string | number
  success(text: string, options?: NoteOptions): string | number
  loading(text: string, options?: NoteOptions): string | number
  dismiss(id?: string | number): unknown
}

export interface NoteOptions {
  /** Notes with one id take each other's place. */
  readonly id?: string | number
  readonly description?: string
  readonly duration?: number
  readonly action?: { readonly label: string; readonly onClick: () => void }
}

/** What an editor needs of the page around it. */
export interface Services {
  /** Does heavy work off the main thread. */
  readonly jobs: Jobs
  readonly notify: Notify
}

/** Something that is remembered for each editor, and what it begins as. */
interface Key<T> {
  readonly begin: (editor: Editor) => T
}

export interface Editor extends Services {
  /** What is remembered under a key. */
  recall<T>(key: Key<T>): T
}

/** Makes an editor in which no puppet is open yet. */
export function createEditor(services: Services): Editor {
  const known = new Map<object, unknown>()
  const editor: Editor = {
    ...services,
    recall<T>(key: Key<T>): T {
      if (!known.has(key)) known.set(key, key.begin(editor))
      return known.get(key) as T
    },
  }
  return editor
}

/** Declares something that each editor remembers; returns what finds it. */
export function editorState<T>(begin: (editor: Editor) => T): (editor: Editor) => T {
  const key: Key<T> = { begin }
  return (editor) => editor.recall(key)
}

/** A store in each editor; called, it is a hook that draws again when what it picks has changed. */
export interface EditorStore<T> {
  (): T
  <U>(pick: (state: T) => U): U
  of(editor: Editor): StoreApi<T>
}

/** Declares a store that each editor has. */
export function editorStore<T>(begin: (editor: Editor) => T): EditorStore<T> {
  const of = editorState((editor) => createStore<T>(() => begin(editor)))
  const useStoreOfEditor = <U = T>(pick?: (state: T) => U): U => useStore(of(useEditor()), pick ?? ((state) => state as unknown as U))
  return Object.assign(useStoreOfEditor, { of })
}

const EditorContext = createContext<Editor | null>(null)

export const EditorProvider = EditorContext.Provider

/** The editor that a component belongs to. */
export function useEditor(): Editor {
  const editor = useContext(EditorContext)
  if (!editor) throw new Error('Components of the interface live inside an EditorProvider.')
  return editor
}
