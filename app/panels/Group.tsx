import { ChevronDown, ChevronRight } from 'lucide-react'
import { Collapsible } from 'radix-ui'
import type { ReactNode } from 'react'
import { detailsKey, toggleFolded, useSession } from '../editor/session'
import { useEditor } from '../editor/editor'

/** A short group of fields under a heading that folds. */
export function Group({ id, title, aside, children }: { id: string; title: string; aside?: ReactNode; children: ReactNode }) {
  const editor = useEditor()
  const key = detailsKey(id)
  const folded = useSession((s) => s.folded.has(key))
  return (
    <Collapsible.Root open={!folded} onOpenChange={() => toggleFolded(editor, key)} asChild>
      <section className="border-t border-hair py-3 first:border-t-0 first:pt-1">
        <h3 className="flex items-center gap-1.5">
          <Collapsible.Trigger className="flex flex-1 items-center gap-1.5 text-xs font-semibold">
            {title}
            {folded ? <ChevronRight size={13} className="text-quiet" /> : <ChevronDown size={13} className="text-quiet" />}
          </Collapsible.Trigger>
          {aside}
        </h3>
        <Collapsible.Content className="mt-2">{children}</Collapsible.Content>
      </section>
    </Collapsible.Root>
  )
}

/** A label with something beside it. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[76px] flex-none text-quiet">{label}</span>
      <div className="min-w-0 flex-1">{children}</div>
    </div>
  )
}
