/** Colours that the stage draws with, as the page has them. */
import { useSession } from '../editor/session'
import { editorState, type Editor } from '../editor/editor'

/** Colours of a theme that are drawn with on the stage. */
export interface StageTheme {
  readonly halo: string
  readonly cord: string
  readonly panel: string
  readonly ink: string
  readonly twine: string
  readonly verdigris: string
  readonly brass: string
  readonly chains: readonly string[]
}

function readTheme(): StageTheme {
  const style = getComputedStyle(document.documentElement)
  const read = (name: string): string => style.getPropertyValue(name).trim()
  return {
    halo: read('--halo'),
    cord: read('--cord'),
    panel: read('--panel'),
    ink: read('--ink'),
    twine: read('--twine'),
    verdigris: read('--verdigris'),
    brass: read('--brass'),
    chains: [1, 2, 3, 4, 5, 6, 7, 8].map((n) => read(`--chain-${n}`)),
  }
}

interface Own {
  theme: { name: string; value: StageTheme } | null
}

const stateOf = editorState((): Own => ({ theme: null }))

/** Colours of the present theme, read from the page once per theme. */
export const currentTheme = (editor: Editor): StageTheme => {
  const own = stateOf(editor)
  const name = useSession.of(editor).getState().theme
  if (own.theme?.name !== name) own.theme = { name, value: readTheme() }
  return own.theme.value
}
