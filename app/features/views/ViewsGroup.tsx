/** The views of the puppet: which is shown, their names, and the way to make them from a sheet. */
import { Eye, Trash2 } from 'lucide-react'
import { renameView, setViewArt } from '@marionette/core/views/commands'
import { Group } from '../../panels/Group'
import { perform, usePuppet } from '../../editor/document'
import { openPanel } from '../../editor/session'
import { Button, IconButton } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { makeView, removeView, showView } from './showing'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'

export function ViewsGroup() {
  const editor = useEditor()
  const views = usePuppet((p) => p.views)
  const shown = usePuppet((p) => p.view)
  const parts = usePuppet((p) => p.parts)
  const counts = (id: string): number => Object.values(parts).filter((p) => p.art[id] !== undefined).length
  return (
    <Group id="views" title="Views" aside={<span className="num text-xs text-quiet">{views.length}</span>}>
      <ul>
        {views.map((v) => (
          <li key={v.id} className={`flex h-8 items-center gap-1 rounded-lg pr-2 pl-1 ${v.id === shown ? 'bg-tint' : ''}`}>
            <IconButton label={`Show ${v.name}`} aria-pressed={v.id === shown} onClick={() => showView(editor, v.id)}>
              <Eye size={15} className={v.id === shown ? 'text-verdigris' : 'text-quiet opacity-60'} />
            </IconButton>
            <NameInput
              label="Name of the view"
              name={v.name}
              onRename={(name) => perform(editor, [edit(renameView, { id: v.id, name })])}
            />
            <span className="num text-xs text-quiet" title="Parts that show something in it">
              {counts(v.id)}
            </span>
            {views.length > 1 && (
              <IconButton label={`Delete view ${v.name}`} onClick={() => removeView(editor, v.id)}>
                <Trash2 size={14} />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button small onClick={() => makeView(editor)}>
          Add a view
        </Button>
        <Button small onClick={() => openPanel(editor, 'cells')}>
          Split a sheet
        </Button>
      </div>
    </Group>
  )
}

/** What a part shows in each view, when there are several. */
export function PartViews({ id }: { id: string }) {
  const editor = useEditor()
  const views = usePuppet((p) => p.views)
  const shown = usePuppet((p) => p.view)
  const part = usePuppet((p) => p.parts[id])
  if (!part || views.length < 2 || part.content.kind === 'group') return null
  return (
    <Group id="part-views" title="In views">
      <ul>
        {views.map((v) => (
          <li key={v.id}>
            <button
              type="button"
              onClick={() => showView(editor, v.id)}
              className={`flex h-7 w-full items-center gap-2 rounded-md px-1 text-left hover:bg-tint ${v.id === shown ? 'font-semibold' : ''}`}
            >
              <span className="min-w-0 flex-1 truncate">{v.name}</span>
              <span className="text-xs text-quiet">{part.art[v.id] === undefined ? 'nothing' : shareWords(part.art, v.id, views)}</span>
            </button>
          </li>
        ))}
      </ul>
      <ShareButtons id={id} />
    </Group>
  )
}

function shareWords(art: Readonly<Record<string, string>>, view: string, views: readonly { id: string; name: string }[]): string {
  const same = views.find((v) => v.id !== view && art[v.id] === art[view])
  return same ? `as in ${same.name}` : 'of its own'
}

/** In the shown view: show what another view has, or nothing. */
function ShareButtons({ id }: { id: string }) {
  const editor = useEditor()
  const views = usePuppet((p) => p.views)
  const shown = usePuppet((p) => p.view)
  const art = usePuppet((p) => p.parts[id]?.art)
  if (!art) return null
  const own = art[shown]
  const others = views.filter((v) => v.id !== shown && art[v.id] !== undefined && art[v.id] !== own)
  return (
    <div className="mt-1.5 flex flex-wrap gap-2">
      {own === undefined &&
        others.map((v) => (
          <Button key={v.id} small onClick={() => perform(editor, [edit(setViewArt, { part: id, view: shown, art: recordOf(art, v.id) })])}>
            Show as in {v.name}
          </Button>
        ))}
      {own !== undefined && views.some((v) => v.id !== shown && art[v.id] !== undefined) && (
        <Button small onClick={() => perform(editor, [edit(setViewArt, { part: id, view: shown, art: null })])}>
          Show nothing here
        </Button>
      )}
    </div>
  )
}
