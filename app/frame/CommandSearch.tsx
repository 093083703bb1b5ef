/** Ctrl+K: find a command or anything in the puppet by name. */
import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useMemo } from 'react'
import { useShallow } from 'zustand/react/shallow'
import { useDocument } from '../editor/document'
import { openPanel, selectBones, selectParts, useSession } from '../editor/session'
import { ACTIONS } from './actions'
import type { ActionContext } from '../panels/action'
import { useEditor } from '../editor/editor'

const ITEM = 'flex h-9 items-center gap-3 rounded-lg px-3 data-[selected=true]:bg-tint'

export default function CommandSearch({ context }: { context: ActionContext }) {
  const editor = useEditor()
  const open = useSession((s) => s.panel === 'search')
  const things = useDocument(useShallow((s) => [s.puppet?.parts, s.puppet?.bones] as const))
  const named = useMemo(() => {
    if (!open) return []
    const bones = Object.values(things[1] ?? {}).map((b) => ({ kind: 'bone' as const, id: b.id, name: b.name }))
    return [...bones, ...Object.values(things[0] ?? {}).map((p) => ({ kind: 'part' as const, id: p.id, name: p.name }))]
  }, [open, things])
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
                {ACTIONS.filter((a) => a.group !== 'Tools' && (!a.enabled || a.enabled(editor))).map((a) => (
                  <Command.Item
                    key={a.id}
                    value={`${a.label} ${a.group}`}
                    className={ITEM}
                    onSelect={() => {
                      close()
                      a.run(context)
                    }}
                  >
                    <span className="flex-1">{a.label}</span>
                    <span className="cap">{a.shown ?? a.group}</span>
                  </Command.Item>
                ))}
                {named.map((n) => (
                  <Command.Item
                    key={`${n.kind}/${n.id}`}
                    value={`${n.name} ${n.kind} ${n.id}`}
                    className={ITEM}
                    onSelect={() => {
                      close()
                      if (n.kind === 'bone') selectBones(editor, n.id)
                      else selectParts(editor, n.id)
                    }}
                  >
                    <span className="flex-1">{n.name}</span>
                    <span className="cap">{n.kind === 'bone' ? 'Bone' : 'Part'}</span>
                  </Command.Item>
                ))}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
