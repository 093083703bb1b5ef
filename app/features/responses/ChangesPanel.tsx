/** Everything that a stop changes, as a list: each can be muted, weighed or taken out. */
import { Eye, EyeOff, X } from 'lucide-react'
import { changeKey, type Change, type Response, type Stop } from '@marionette/core/puppet/schema'
import { recordStop } from '@marionette/core/responses/commands'
import { Thumb } from '../../pictures/Thumb'
import { perform, usePuppet } from '../../editor/document'
import { selectBones, selectParts } from '../../editor/session'
import { changeWords, stopWords } from './words'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

export function ChangesPanel({ response, stop }: { response: Response; stop: Stop }) {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const set = (changes: Change[], label: string): void =>
    void perform(editor, [edit(recordStop, { response: response.id, stop: stop.id, changes })], label)
  return (
    <section aria-label="Changes" className="pb-3">
      <h2 className="flex items-baseline justify-between py-2 text-[15px] font-semibold">
        Changes at {stopWords(puppet, response, stop.at)} <span className="num text-xs font-normal text-quiet">{stop.changes.length}</span>
      </h2>
      {stop.changes.length === 0 && (
        <p className="text-xs/[18px] text-quiet">
          Pose, move, reshape, recolour, hide or reorder: whatever you change now is listed here and happens whenever the input is at this
          stop.
        </p>
      )}
      <ul>
        {stop.changes.map((change) => (
          <ChangeRow
            key={changeKey(change)}
            change={change}
            onChange={(next) =>
              set(
                stop.changes.map((c) => (c === change ? next : c)),
                'Change what is recorded',
              )
            }
            onRemove={() =>
              set(
                stop.changes.filter((c) => c !== change),
                `Take out ${changeWords(puppet, change).name}`,
              )
            }
          />
        ))}
      </ul>
    </section>
  )
}

function ChangeRow({ change, onChange, onRemove }: { change: Change; onChange: (change: Change) => void; onRemove: () => void }) {
  const editor = useEditor()
  const { name, what, picture } = changeWords(
    usePuppet((p) => p),
    change,
  )
  const percent = Math.round(change.scale * 100)
  return (
    <li className={`flex h-10 items-center gap-2 ${change.muted ? 'opacity-55' : ''}`}>
      <button
        type="button"
        className="flex min-w-0 flex-1 items-center gap-2 rounded-lg text-left hover:bg-tint"
        onClick={() => picture && (picture.kind === 'bone' ? selectBones(editor, picture.id) : selectParts(editor, picture.id))}
      >
        {picture ? <Thumb kind={picture.kind} id={picture.id} size={30} /> : <span className="size-[30px] flex-none rounded-md bg-tint" />}
        <span className="min-w-0">
          <b className="block truncate font-medium">{name}</b>
          <span className="cap block truncate">
            {what}
            {change.muted && ', muted'}
          </span>
        </span>
      </button>
      {change.kind !== 'choice' && (
        <input
          key={percent}
          aria-label={`How much of ${name}, percent`}
          title="How much of it counts, percent"
          className="num h-6 w-9 rounded bg-transparent text-right text-[11px] text-quiet outline-none hover:bg-tint focus:bg-tint"
          defaultValue={percent}
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            const typed = Number(e.target.value.replace(',', '.'))
            if (Number.isFinite(typed) && typed !== percent) onChange({ ...change, scale: typed / 100 })
          }}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') e.currentTarget.blur()
          }}
        />
      )}
      {change.kind !== 'choice' && <span className="cap -ml-1.5">%</span>}
      <button
        type="button"
        aria-label={change.muted ? `Unmute ${name}` : `Mute ${name}`}
        className="text-quiet hover:text-ink"
        onClick={() => onChange({ ...change, muted: !change.muted })}
      >
        {change.muted ? <EyeOff size={15} /> : <Eye size={15} />}
      </button>
      <button type="button" aria-label={`Take out ${name}: ${what}`} className="text-quiet hover:text-cord" onClick={onRemove}>
        <X size={15} />
      </button>
    </li>
  )
}
