/** What people note on a part: its role, a colour tag, a lock and a comment. */
import { TAGS, type Part } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { commentPart, lockPart, setRole, tagPart } from '@marionette/core/edit/marks'
import { roleKey, roleLabel, ROLES } from '@marionette/core/roles/roles'
import { perform, openPuppet } from '../state/document'
import { useSession } from '../state/session'
import { TAG_NAMES, TagDot } from '../roster/TagDot'
import { Field, Group, Pick } from './Group'

const KEYS = ROLES.flatMap((r) => (r.sided ? [roleKey(r.id, 'left'), roleKey(r.id, 'right')] : [r.id]))

/** All selected parts, of which this is one. */
const meant = (id: string): string[] => {
  const { selection } = useSession.getState()
  return selection.kind === 'part' && selection.ids.includes(id) ? selection.ids.filter((p) => p !== openPuppet().root) : [id]
}

export function NotesGroup({ part }: { part: Part }) {
  const options = [{ id: '', label: 'Not noted' }, ...KEYS.map((id) => ({ id, label: roleLabel(id) }))]
  const known = part.role === null || KEYS.includes(part.role)
  return (
    <Group id="notes" title="Notes">
      <Field label="Role">
        <Pick
          label="Role"
          value={part.role ?? ''}
          options={known ? options : [...options, { id: part.role!, label: roleLabel(part.role!) }]}
          onChange={(role) => perform([edit(setRole, { parts: [part.id], role: role === '' ? null : role })])}
        />
      </Field>
      <Field label="Tag">
        <div className="flex gap-1" role="group" aria-label="Colour tag">
          {Array.from({ length: TAGS + 1 }, (_, tag) => (
            <button
              key={tag}
              type="button"
              aria-label={tag === 0 ? 'No tag' : `Tag ${TAG_NAMES[tag]}`}
              aria-pressed={part.tag === tag}
              className={`grid size-6 place-items-center rounded-full ${part.tag === tag ? 'shadow-[0_0_0_2px_var(--ink)]' : 'hover:bg-tint'}`}
              onClick={() => perform([edit(tagPart, { parts: meant(part.id), tag })])}
            >
              <TagDot tag={tag} size={12} />
            </button>
          ))}
        </div>
      </Field>
      <label className="flex h-7 items-center gap-2">
        <span className="w-[76px] text-quiet">Locked</span>
        <input
          type="checkbox"
          className="size-4 accent-[var(--verdigris)]"
          checked={part.locked}
          onChange={(e) => perform([edit(lockPart, { parts: meant(part.id), locked: e.target.checked })])}
        />
      </label>
      <textarea
        key={`${part.id} ${part.comment}`}
        aria-label="Comment"
        placeholder="Comment"
        rows={2}
        maxLength={2000}
        defaultValue={part.comment}
        className="mt-1 w-full resize-y rounded-lg bg-tint px-2 py-1.5 text-xs outline-offset-1"
        onKeyDown={(e) => e.stopPropagation()}
        onBlur={(e) => e.target.value !== part.comment && perform([edit(commentPart, { part: part.id, comment: e.target.value })])}
      />
    </Group>
  )
}
