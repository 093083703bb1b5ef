/** Above the part tree: finding, filtering and sorting rows. */
import { ArrowDownAZ, ListFilter } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useSession } from '../editor/session'
import { Button, IconButton } from '../ui/Button'
import { Segments } from '../ui/Segments'
import { conditionsOf, isFiltering, NO_FILTER, type PartFilter, type PartKind, type SortBy } from '../editor/partFilter'
import { TagDot } from '../panels/TagDot'
import { TAGS } from '@marionette/core/parts/records'
import { FindField } from '../panels/FindField'
import { useEditor, type Editor } from '../editor/editor'

const setFilter = (editor: Editor, change: Partial<PartFilter>): void =>
  useSession.of(editor).setState((s) => ({ partFilter: { ...s.partFilter, ...change } }))

export function FilterBar() {
  const editor = useEditor()
  const filter = useSession((s) => s.partFilter)
  const sort = useSession((s) => s.partSort)
  const count = conditionsOf(filter) + (sort === 'order' ? 0 : 1)
  return (
    <div className="mt-1.5 mr-2 flex h-7 flex-none items-center gap-1">
      <FindField
        what="parts"
        value={filter.text}
        isOn={isFiltering(filter)}
        onChange={(text) => setFilter(editor, { text })}
        onClear={() => setFilter(editor, NO_FILTER)}
      />
      <Popover.Root>
        <Popover.Trigger asChild>
          <IconButton label="Filter and sort" className={`relative size-7 ${count > 0 ? 'text-cord' : ''}`}>
            <ListFilter size={15} />
            {count > 0 && (
              <span className="num absolute -top-0.5 -right-0.5 rounded-full bg-cord px-1 text-[9px]/3 text-on-accent">{count}</span>
            )}
          </IconButton>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="start" sideOffset={4} className="z-30 w-[300px] rounded-xl bg-panel p-4 shadow-3">
            <Conditions filter={filter} sort={sort} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  )
}

const KINDS: readonly { readonly value: PartKind | 'any'; readonly label: string }[] = [
  { value: 'any', label: 'All' },
  { value: 'group', label: 'Groups' },
  { value: 'drawing', label: 'Drawings' },
  { value: 'picture', label: 'Pictures' },
]

const SORTS: readonly { readonly value: SortBy; readonly label: string }[] = [
  { value: 'order', label: 'As drawn' },
  { value: 'name', label: 'Name' },
  { value: 'kind', label: 'Kind' },
  { value: 'tag', label: 'Tag' },
]

const STATES: readonly {
  readonly key: 'bound' | 'masked' | 'hidden' | 'locked' | 'commented'
  readonly yes: string
  readonly no: string
}[] = [
  { key: 'bound', yes: 'Bound', no: 'Unbound' },
  { key: 'masked', yes: 'Masked', no: 'No mask' },
  { key: 'hidden', yes: 'Hidden', no: 'Shown' },
  { key: 'locked', yes: 'Locked', no: 'Free' },
  { key: 'commented', yes: 'With comment', no: 'Without' },
]

function Conditions({ filter, sort }: { filter: PartFilter; sort: SortBy }) {
  const editor = useEditor()
  return (
    <div className="flex flex-col gap-3">
      <Segments
        label="Kind"
        value={filter.kind ?? 'any'}
        options={KINDS}
        onChange={(kind) => setFilter(editor, { kind: kind === 'any' ? null : kind })}
      />
      <div className="flex items-center gap-1.5" role="group" aria-label="Colour tag">
        <span className="w-[70px] text-quiet">Tag</span>
        {Array.from({ length: TAGS + 1 }, (_, tag) => (
          <button
            key={tag}
            type="button"
            aria-label={tag === 0 ? 'Without a tag' : `Tag ${tag}`}
            aria-pressed={filter.tag === tag}
            className={`grid size-6 place-items-center rounded-full ${filter.tag === tag ? 'shadow-[0_0_0_2px_var(--cord)]' : 'hover:bg-tint'}`}
            onClick={() => setFilter(editor, { tag: filter.tag === tag ? null : tag })}
          >
            <TagDot tag={tag} size={12} />
          </button>
        ))}
      </div>
      {STATES.map(({ key, yes, no }) => (
        <Segments
          key={key}
          label={yes}
          value={filter[key] === null ? 'any' : filter[key] ? 'yes' : 'no'}
          options={[
            { value: 'any', label: 'All' },
            { value: 'yes', label: yes },
            { value: 'no', label: no },
          ]}
          onChange={(v) => setFilter(editor, { [key]: v === 'any' ? null : v === 'yes' })}
        />
      ))}
      <div>
        <p className="mb-1 flex items-center gap-1.5 text-quiet">
          <ArrowDownAZ size={14} /> Sorted list; what is drawn over what stays
        </p>
        <Segments label="Sort by" value={sort} options={SORTS} onChange={(partSort) => useSession.of(editor).setState({ partSort })} />
      </div>
      <Button
        small
        onClick={() => {
          setFilter(editor, NO_FILTER)
          useSession.of(editor).setState({ partSort: 'order' })
        }}
      >
        Show all as drawn
      </Button>
    </div>
  )
}
