/** Ctrl+K: find a command or anything in the puppet by name. */
import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useMemo } from 'react'
import { useDocument } from '../editor/document'
import { openPanel, useSession } from '../editor/session'
import { FEATURES } from '../features/features'
import { SEARCHED } from './actions'
import type { ActionContext } from '../panels/action'
import { keysOf, useKeymap } from '../panels/keymap'
import { keysShown, shownKeys } from '../ui/keys'
import { useEditor } from '../editor/editor'

const ITEM = 'flex h-9 items-center gap-3 rounded-lg px-3 data-[selected=true]:bg-tint'

export default function CommandSearch({ context }: { context: ActionContext }) {
  const editor = useEditor()
  const open = useSession((s) => s.panel === 'search')
  const puppet = useDocument((s) => s.puppet)
  const keymap = useKeymap()
  const named = useMemo(() => {
    if (!open || !puppet) return []
    return FEATURES.flatMap((f) => f.finds?.(puppet) ?? [])
  }, [open, puppet])
  const close = (): void => openPanel(editor, null)
  return (
    <Dialog.Root open={open} onOpenChange={(now) => !now && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          className="fixed top-[14vh] left-1/2 z-40 w-[560px] max-w-[94vw] -translate-x-1/2 overflow-hidden rounded-2xl bg-panel shadow-3"
          aria-describedby={undefined}
        >
          <Dialog.Title className="sr-only">Commands</Dialog.Title>
          <Command loop>
            <Command.Input
              placeholder="What would you like to do, or find?"
              className="h-13 w-full border-b border-hair bg-transparent px-5 py-4 text-[15px] outline-none placeholder:text-quiet"
            />
            <Command.List className="scroll-thin max-h-[46vh] overflow-y-auto p-2">
              <Command.Empty className="px-3 py-6 text-center text-quiet">Nothing here goes by that name.</Command.Empty>
              <Command.Group>
                {SEARCHED.filter((a) => a.enabled?.(editor) ?? true).map((a) => (
                  <Line
                    key={a.id}
                    value={`${a.label} ${a.place ?? a.group} ${a.id}`}
                    words={a.words}
                    label={a.label}
                    place={a.place ?? a.group}
                    keys={a.belt === undefined ? shownKeys(keysOf(keymap, a)) : `${a.belt}`}
                    run={() => {
                      close()
                      a.run(context)
                    }}
                  />
                ))}
                {named.map((n) => (
                  <Line
                    key={`${n.kind}/${n.id}`}
                    value={`${n.name} ${n.kind} ${n.id}`}
                    label={n.name}
                    place={n.kind}
                    run={() => {
                      close()
                      const { bench } = useSession.of(editor).getState()
                      const [first] = n.benches
                      if (first && !n.benches.includes(bench)) context.go(first)
                      n.show(editor)
                    }}
                  />
                ))}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

interface LineProps {
  readonly value: string
  readonly words?: string | undefined
  readonly label: string
  readonly place: string
  readonly keys?: string | undefined
  readonly run: () => void
}

/** What was found: its name, where it is, and its keys. */
function Line({ value, words, label, place, keys, run }: LineProps) {
  return (
    <Command.Item value={value} keywords={words?.split(' ').filter(Boolean) ?? []} className={ITEM} onSelect={run}>
      <span className="min-w-0 flex-1 truncate">{label}</span>
      <span className="cap">{place}</span>
      {keys && <kbd className="num min-w-8 rounded bg-tint px-1.5 py-0.5 text-center text-[11px]">{keysShown(keys)}</kbd>}
    </Command.Item>
  )
}
