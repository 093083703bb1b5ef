/** All keys from one table, each of which can be set to others. */
import { RotateCcw } from 'lucide-react'
import { useEffect, useState } from 'react'
import { openPanel, useSession } from '../editor/session'
import type { Action } from '../panels/action'
import { keysOf, listeningTo, setKeys, useKeymap, waysOf, without } from '../panels/keymap'
import { FindField } from '../panels/FindField'
import { Button } from '../ui/Button'
import { keysShown, pressedKeys, shownKeys } from '../ui/keys'
import { Sheet } from '../ui/Sheet'
import { ACTIONS } from './actions'
import { useEditor } from '../editor/editor'
import { listed } from '@marionette/core/kernel/counted'

const BY_HAND = [
  ['Space and drag', 'Pan the stage'],
  ['Wheel, Ctrl and wheel', 'Zoom at the pointer'],
  ['Shift and wheel', 'Pan sideways'],
  ['Two fingers', 'Pan and zoom'],
  ['Long press', 'Menu of what lies there'],
  ['Escape', 'Cancel a drag in progress'],
  ['1 to 9', 'Tools of the belt'],
] as const

const SETTABLE = ACTIONS.filter((a) => a.group !== 'Tools')

export function ShortcutList() {
  const editor = useEditor()
  const open = useSession((s) => s.panel === 'shortcuts')
  const isChanged = useKeymap((s) => Object.keys(s.own).length > 0)
  const [wanted, setWanted] = useState('')
  const [setting, setSetting] = useState<string | null>(null)
  const words = wanted.trim().toLowerCase()
  const found = SETTABLE.filter((a) => `${a.label} ${a.words ?? ''} ${a.group}`.toLowerCase().includes(words))
  const groups = [...new Set(found.map((a) => a.group))].map((group) => [group, found.filter((a) => a.group === group)] as const)
  const close = (): void => {
    setSetting(null)
    openPanel(editor, null)
  }
  return (
    <Sheet open={open} onClose={close} title="Shortcuts" text="Press the keys of a command to set others." wide>
      <div className="mb-4 flex items-center gap-3">
        <FindField what="commands" value={wanted} isOn={wanted !== ''} onChange={setWanted} onClear={() => setWanted('')} />
        <Button small disabled={!isChanged} onClick={() => setKeys(editor, Object.fromEntries(SETTABLE.map((a) => [a.id, null])))}>
          All as they came
        </Button>
      </div>
      <div className="grid grid-cols-2 gap-x-10 gap-y-5">
        {groups.map(([group, actions]) => (
          <section key={group}>
            <h3 className="mb-1 text-xs font-semibold">{group}</h3>
            {actions.map((a) => (
              <Line key={a.id} action={a} isSetting={setting === a.id} onSet={(on) => setSetting(on ? a.id : null)} />
            ))}
          </section>
        ))}
        {words === '' && (
          <section>
            <h3 className="mb-1 text-xs font-semibold">On the stage</h3>
            {BY_HAND.map(([keys, text]) => (
              <div key={keys} className="flex h-7 items-center gap-3">
                <span className="flex-1">{text}</span>
                <kbd className="cap px-1.5">{keysShown(keys)}</kbd>
              </div>
            ))}
          </section>
        )}
      </div>
      {groups.length === 0 && <p className="py-4 text-center text-quiet">No command goes by that name.</p>}
    </Sheet>
  )
}

interface LineProps {
  readonly action: Action
  readonly isSetting: boolean
  readonly onSet: (on: boolean) => void
}

function Line({ action, isSetting, onSet }: LineProps) {
  const editor = useEditor()
  const keys = useKeymap((s) => keysOf(s, action))
  const isOwn = useKeymap((s) => s.own[action.id] !== undefined)
  if (isSetting) return <Setting action={action} onDone={() => onSet(false)} />
  return (
    <div className="group flex min-h-7 items-center gap-1.5">
      <span className="flex-1">{action.label}</span>
      {isOwn && (
        <button
          type="button"
          aria-label={`Keys of ${action.label} as they came`}
          title="As they came"
          className="grid size-6 place-items-center rounded text-quiet hover:bg-tint hover:text-ink"
          onClick={() => setKeys(editor, { [action.id]: null })}
        >
          <RotateCcw size={12} />
        </button>
      )}
      <button
        type="button"
        aria-label={`Keys of ${action.label}: ${keys === '' ? 'none' : shownKeys(keys)}`}
        className={`cap rounded-md px-1.5 hover:shadow-[inset_0_0_0_1px_var(--twine)] ${keys === '' ? 'text-quiet opacity-0 group-hover:opacity-100 [@media(hover:none)]:opacity-100 focus-visible:opacity-100' : 'bg-tint'} ${isOwn ? 'text-verdigris' : ''}`}
        onClick={() => onSet(true)}
      >
        {keys === '' ? 'Set' : keysShown(shownKeys(keys))}
      </button>
    </div>
  )
}

/** Waits for keys; where others listen to them already, those are named first. */
function Setting({ action, onDone }: { action: Action; onDone: () => void }) {
  const editor = useEditor()
  const [pressed, setPressed] = useState('')
  const [why, setWhy] = useState('')
  const others = useKeymap.of(editor).getState()
  const rivals = listeningTo(others, ACTIONS, pressed, action.id)
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      e.preventDefault()
      e.stopImmediatePropagation()
      if (e.key === 'Escape') return onDone()
      const press = pressedKeys(e)
      if (press.kind === 'held') return
      setWhy(press.kind === 'refused' ? press.why : '')
      if (press.kind === 'refused') return setPressed('')
      if (listeningTo(useKeymap.of(editor).getState(), ACTIONS, press.keys, action.id).length > 0) return setPressed(press.keys)
      setKeys(editor, { [action.id]: press.keys })
      onDone()
    }
    // Before the sheet, which Escape would close, and before the keys themselves.
    window.addEventListener('keydown', onKey, { capture: true })
    return () => window.removeEventListener('keydown', onKey, { capture: true })
  }, [editor, action.id, onDone])
  const take = (): void => {
    const taken = rivals.map((r) => [r.id, without(keysOf(others, r), pressed)] as const)
    setKeys(editor, { ...Object.fromEntries(taken), [action.id]: pressed })
    onDone()
  }
  return (
    <div className="my-1 rounded-lg bg-tint px-2 py-1.5" role="group" aria-label={`Keys of ${action.label}`}>
      <div className="flex items-center gap-1.5">
        <span className="flex-1 font-semibold">{action.label}</span>
        <span className="cap rounded-md bg-panel px-1.5" role="status">
          {pressed === '' ? 'Press keys…' : keysShown(shownKeys(pressed))}
        </span>
      </div>
      {why && <p className="mt-1 text-xs text-cord">{why}</p>}
      {rivals.length > 0 && (
        <p role="alert" className="mt-1 text-xs">
          {keysShown(shownKeys(pressed))} is {listed(rivals.map((r) => r.label))} now.
        </p>
      )}
      <div className="mt-1.5 flex gap-1.5">
        {rivals.length > 0 && (
          <Button small kind="ink" onClick={take}>
            Use it here
          </Button>
        )}
        {waysOf(keysOf(others, action)).length > 0 && (
          <Button
            small
            onClick={() => {
              setKeys(editor, { [action.id]: '' })
              onDone()
            }}
          >
            No keys
          </Button>
        )}
        <Button small onClick={onDone}>
          Leave it
        </Button>
      </div>
    </div>
  )
}
