/** What can be done where the stage was pressed long, or with the secondary button: what lies there, and the actions for it. */
import { Check } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { Vec } from '@marionette/core/puppet/schema'
import { openPuppet } from '../editor/document'
import { selectBones, selectParts, useSession } from '../editor/session'
import { MENU, MENU_ITEM } from '../ui/menu'
import { areBonesShown } from '../stage/bonesShown'
import { boneAt, partsUnder } from '../stage/pick'
import type { ToolHost } from '../stage/tool'
import type { ActionContext } from '../panels/action'
import { ActionItems } from './ActionMenu'
import { useEditor, type Editor } from '../editor/editor'

/** Things that are listed where many lie over each other. */
const MOST = 8

export interface Lying {
  readonly kind: 'part' | 'bone'
  readonly id: string
  readonly name: string
}

export interface OpenedAt {
  /** On the stage, screen px. */
  readonly at: Vec
  readonly lying: readonly Lying[]
}

/** What lies at a spot of the canvas, uppermost first. */
export function lyingAt(host: ToolHost, at: Vec): Lying[] {
  const { parts, bones } = openPuppet(host.editor)
  const bone = areBonesShown(host.editor) ? boneAt(host, at)?.id : undefined
  const stack = partsUnder(host, at).flatMap((id): Lying[] => (parts[id] ? [{ kind: 'part', id, name: parts[id].name }] : []))
  return [...(bone !== undefined && bones[bone] ? [{ kind: 'bone' as const, id: bone, name: bones[bone].name }] : []), ...stack].slice(
    0,
    MOST,
  )
}

const isSelected = (editor: Editor, { kind, id }: Lying): boolean => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === kind && selection.ids.includes(id)
}

const select = (editor: Editor, { kind, id }: Lying): void => (kind === 'bone' ? selectBones : selectParts)(editor, id)

/** The menu is about what is selected there, else about the uppermost. */
export function selectLying(editor: Editor, lying: readonly Lying[]): void {
  if (lying[0] && !lying.some((l) => isSelected(editor, l))) select(editor, lying[0])
}

export function StageMenu({ opened, onClose, context }: { opened: OpenedAt; onClose: () => void; context: ActionContext }) {
  const editor = useEditor()
  const selection = useSession((s) => s.selection)
  const { at, lying } = opened
  const kind = lying.length > 0 && selection.ids.length > 0 ? selection.kind : 'stage'
  return (
    <DropdownMenu.Root open onOpenChange={(open) => open || onClose()}>
      <DropdownMenu.Trigger asChild>
        <i aria-hidden className="pointer-events-none absolute size-0" style={{ left: at.x, top: at.y }} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-label="What can be done here"
          className={`${MENU} scroll-thin max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto`}
          align="start"
          collisionPadding={8}
          // The focus stays with the stage, whose keys count.
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          {lying.length > 0 && (
            <>
              <DropdownMenu.Label className="px-2.5 pt-1 pb-0.5 text-xs text-quiet">Lies here</DropdownMenu.Label>
              {lying.map((one) => (
                <DropdownMenu.Item key={`${one.kind} ${one.id}`} className={MENU_ITEM} onSelect={() => select(editor, one)}>
                  <span className={`max-w-52 truncate ${isSelected(editor, one) ? 'font-semibold' : ''}`}>{one.name}</span>
                  {one.kind === 'bone' && <span className="text-xs text-quiet">Bone</span>}
                  {isSelected(editor, one) && <Check size={14} className="ml-auto" aria-label="selected" />}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 border-t border-hair" />
            </>
          )}
          <ActionItems kind={kind} context={context} parts={DropdownMenu} onlyEnabled />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
