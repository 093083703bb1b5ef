/** Notes that are said before what shows them has come: they wait for it, in their order. */
import type { NoteOptions, Notify } from './editor'

const KINDS = ['error', 'warning', 'success', 'loading'] as const

/** Notes for an editor, and the way to tell them what shows them. */
export function waitingNotes(): { readonly notify: Notify; readonly showWith: (shows: Notify) => void } {
  let shown: Notify | null = null
  const waiting: ((shows: Notify) => void)[] = []
  const then = (act: (shows: Notify) => void): void => {
    if (shown) act(shown)
    else waiting.push(act)
  }
  let count = 0
  const say =
    (pick: (shows: Notify) => (text: string, options?: NoteOptions) => unknown) =>
    (text: string, options?: NoteOptions): string | number => {
      // Known before it shows, so that it can be taken back.
      const id = options?.id ?? `note-${++count}`
      then((shows) => pick(shows)(text, { ...options, id }))
      return id
    }
  const kinds = Object.fromEntries(KINDS.map((kind) => [kind, say((shows) => shows[kind])])) as Pick<Notify, (typeof KINDS)[number]>
  return {
    notify: Object.assign(
      say((shows) => shows),
      { ...kinds, dismiss: (id?: string | number) => then((shows) => shows.dismiss(id)) },
    ),
    showWith: (shows) => {
      shown = shows
      for (const act of waiting.splice(0)) act(shows)
    },
  }
}
