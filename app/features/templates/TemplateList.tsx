/** Templates to choose from, with how well each suits the puppet. */
import { Trash2 } from 'lucide-react'
import { useMemo } from 'react'
import type { Puppet } from '@marionette/core/puppet/schema'
import { suits } from '@marionette/core/templates/assign'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import type { Template } from '@marionette/core/templates/template'
import { IconButton } from '../../ui/Button'

interface TemplateListProps {
  readonly puppet: Puppet
  readonly templates: readonly Template[]
  readonly chosen: string
  readonly onChoose: (id: string) => void
  readonly onRemove: (id: string) => void
}

const isBuiltIn = (id: string): boolean => TEMPLATES.some((t) => t.id === id)

export function TemplateList({ puppet, templates, chosen, onChoose, onRemove }: TemplateListProps) {
  const scores = useMemo(() => new Map(templates.map((t) => [t.id, suits(puppet, t)])), [puppet, templates])
  return (
    <ul aria-label="Templates" className="scroll-thin max-h-[430px] overflow-y-auto">
      {templates.map((t) => (
        <li key={t.id} className="group relative flex">
          <button
            type="button"
            aria-pressed={t.id === chosen}
            onClick={() => onChoose(t.id)}
            className={`mb-1 flex-1 rounded-xl px-3 py-2 text-left ${t.id === chosen ? 'bg-cord-soft' : 'hover:bg-tint'}`}
          >
            <span className="flex items-baseline gap-2">
              <b className="min-w-0 flex-1 truncate font-[650]">{t.name}</b>
              <span className="num text-xs text-quiet">{Math.round(100 * (scores.get(t.id) ?? 0))}%</span>
            </span>
            <span className="block text-xs/4 text-quiet">{t.note}</span>
          </button>
          {!isBuiltIn(t.id) && (
            <IconButton
              label={`Remove ${t.name}`}
              className="absolute right-1 bottom-2 size-6 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
              onClick={() => onRemove(t.id)}
            >
              <Trash2 size={13} />
            </IconButton>
          )}
        </li>
      ))}
    </ul>
  )
}
