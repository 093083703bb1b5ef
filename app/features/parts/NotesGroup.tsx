/** What people note on a part: its role, a colour tag, a lock and a comment. */
import type { Part } from '@marionette/core/puppet/schema'
import { commentPart, lockPart, tagPart } from '@marionette/core/parts/marks'
import { roleKey, roleLabel, ROLES } from '@marionette/core/roles/roles'
import { perform, openPuppet } from '../../editor/document'
import { useSession } from '../../editor/session'
import { TAG_NAMES, TagDot } from '../../panels/TagDot'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { edit } from '@marionette/core/kernel/command'
import { TAGS } from '@marionette/core/parts/records'
import { setRole } from '@marionette/core/roles/commands'
import { useEditor, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'

const KEYS = ROLES.flatMap((r) => (r.sided ? [roleKey(r.id, 'left'), roleKey(r.id, 'right')] : [r.id]))

/** All selected parts, of which this is one. */
const meant = (editor: Editor, id: string): string[] => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' && selection.ids.includes(id) ? selection.ids.filter((p) => p !== openPuppet(editor).root) : [id]
}

export function NotesGroup({ part }: { part: Part }) {
  const editor = useEditor()
  const options = [{ id: '', label: 'Not noted' }, ...KEYS.map((id) => ({ id, label: roleLabel(id) }))]
  const known = part.role === null || KEYS.includes(part.role)
  return (
    <Group id="notes" title="Notes">
      <Field label="Role">
        <Pick
          label="Role"
          value={part.role ?? ''}
          options={known ? options : [...options, { id: sure(part.role), label: roleLabel(sure(part.role)) }]}
          onChange={(role) => perform(editor, [edit(setRole, { parts: [part.id], role: role === '' ? null : role })])}
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
              onClick={() => perform(editor, [edit(tagPart, { parts: meant(editor, part.id), tag })])}
            >
              <TagDot tag={tag} size={12} />
            </button>
          ))}
        </div>
      </Field>
      <label className="flex h-7 items-center gap-2">
        <span className="w-[76px] text-quiet">Locked</span>
        <Box checked={part.locked} onChange={(on) => perform(editor, [edit(lockPart, { parts: meant(editor, part.id), locked: on })])} />
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
        onBlur={(e) => e.target.value !== part.comment && perform(editor, [edit(commentPart, { part: part.id, comment: e.target.value })])}
      />
    </Group>
  )
}
