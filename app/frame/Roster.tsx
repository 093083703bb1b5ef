/** Left: the tree of parts, and in Bones the tree of bones in the same place with the same manners. */
import { Combine, Eye, EyeOff, FolderPlus, Layers, Layers2, Link2, Lock, MessageSquare, Scissors, Shapes, Spline } from 'lucide-react'
import { useMemo, useState } from 'react'
import { channelOfChange, partOfChange } from '@marionette/core/puppet/schema'
import { hangBone, renameBone } from '@marionette/core/bones/commands'
import { moveParts } from '@marionette/core/parts/arrange'
import { lockPart } from '@marionette/core/parts/marks'
import { renamePart, showPart } from '@marionette/core/parts/commands'
import { findingsAt } from './benches'
import { selectJoint } from '../features/joints/making'
import { openPuppet, perform, usePuppet } from '../editor/document'
import { FEATURES } from '../features/features'
import type { Mend } from '../panels/feature'
import { useFindings } from './findings'
import { recorded, useRecording } from '../features/responses/recording'
import { NOTHING, openPanel, selectBones, selectParts, toggleSelected, useSession } from '../editor/session'
import { Button, IconButton } from '../ui/Button'
import { addGroup } from '../features/parts/adding'
import { ClipList } from '../features/clips/ClipList'
import { openResponse, ResponseList } from '../features/responses/ResponseList'
import { maskBy } from '../features/layering/masking'
import { Thumb } from '../pictures/Thumb'
import { FilterBar } from './FilterBar'
import { isFiltering, listedRows } from '../editor/partFilter'
import { PartMenu } from './PartMenu'
import type { ActionContext } from '../panels/action'
import { TAG_NAMES } from '../panels/TagDot'
import { boneLanding, boneRows, foundBones, partLanding, partRows, type DropSide } from '../panels/tree'
import { TreeList } from './TreeList'
import { edit } from '@marionette/core/kernel/command'
import { partsOfBone } from '@marionette/core/binds/tree'
import type { Finding } from '@marionette/core/kernel/finding'
import { FindField } from '../panels/FindField'
import { useEditor, type Editor } from '../editor/editor'
import { useKeysFor } from '../panels/keymap'
import { Tabs } from 'radix-ui'

type Shown = 'parts' | 'bones' | 'responses' | 'clips'

export function Roster({ context }: { context: ActionContext }) {
  const fitKeys = useKeysFor('fit')
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const tree = useSession((s) => s.tree)
  const parts = usePuppet((p) => Object.keys(p.parts).length - 1)
  const bones = usePuppet((p) => Object.keys(p.bones).length)
  const list = useSession((s) => s.list)
  const responses = usePuppet((p) => p.responses.length)
  const hasResponses = bench === 'shape' || bench === 'face'
  const clips = usePuppet((p) => p.clips.length)
  const acts = useSession((s) => s.acts)
  const isActing = bench === 'rehearse'
  const shown: Shown = bench === 'bones' ? tree : hasResponses ? list : isActing ? acts : 'parts'
  const show = (next: Shown): void => {
    if (isActing && (next === 'clips' || next === 'parts')) return useSession.of(editor).setState({ acts: next })
    if (next === 'clips') return
    if (next !== 'responses' && bench === 'bones') useSession.of(editor).setState({ tree: next })
    if (next !== 'bones' && hasResponses) useSession.of(editor).setState({ list: next })
  }
  return (
    <Tabs.Root value={shown} onValueChange={(next) => show(next as Shown)} asChild>
      <aside aria-label="Roster" className="flex min-h-0 flex-col pt-2 pb-3 pl-4">
        <div className="flex h-8 flex-none items-center gap-3.5 pr-2">
          <Tabs.List aria-label="Lists" className="flex gap-3.5">
            {isActing && <Tab name="Clips" value="clips" count={clips} />}
            <Tab name="Parts" value="parts" count={parts} />
            {bench === 'bones' && <Tab name="Bones" value="bones" count={bones} />}
            {hasResponses && <Tab name="Responses" value="responses" count={responses} />}
          </Tabs.List>
          <span className="flex-1" />
          {parts > 0 && (
            <IconButton label="Fit a template" keys={fitKeys} onClick={() => openPanel(editor, 'fit')}>
              <Shapes size={16} />
            </IconButton>
          )}
          {shown === 'parts' && (
            <IconButton label="New group" onClick={() => addGroup(editor)}>
              <FolderPlus size={16} />
            </IconButton>
          )}
        </div>
        <Tabs.Content value={shown} tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
          {shown === 'parts' && parts > 0 && <FilterBar />}
          {shown === 'parts' ? (
            <PartTree context={context} />
          ) : shown === 'responses' ? (
            <ResponseList />
          ) : shown === 'clips' ? (
            <ClipList />
          ) : (
            <BoneTree />
          )}
        </Tabs.Content>
        <FindingNote />
      </aside>
    </Tabs.Root>
  )
}

function Tab({ name, value, count }: { name: string; value: Shown; count: number }) {
  return (
    <Tabs.Trigger
      value={value}
      className="border-b-2 border-transparent leading-6 whitespace-nowrap text-quiet hover:text-ink data-[state=active]:border-ink data-[state=active]:font-[650] data-[state=active]:text-ink"
    >
      {name} <span className="num text-quiet">{count}</span>
    </Tabs.Trigger>
  )
}

const hover = (editor: Editor, kind: 'part' | 'bone') => (id: string | null) =>
  useSession.of(editor).setState({ hover: id ? { kind, ids: [id] } : NOTHING })

/** Selects one row, a range with Shift, or adds a row with Ctrl. */
function selectRow(editor: Editor, kind: 'part' | 'bone', rows: readonly { id: string }[]) {
  return (id: string, { shift, add }: { shift: boolean; add: boolean }): void => {
    const { selection } = useSession.of(editor).getState()
    if (add) return toggleSelected(editor, kind, id)
    const from = rows.findIndex((r) => selection.kind === kind && r.id === selection.ids[0])
    const to = rows.findIndex((r) => r.id === id)
    const ids = shift && from >= 0 ? rows.slice(Math.min(from, to), Math.max(from, to) + 1).map((r) => r.id) : [id]
    // The first of a range stays first: it is the one that details show.
    useSession.of(editor).setState({ selection: { kind, ids: shift && from > to ? ids.reverse() : ids } })
  }
}

function PartTree({ context }: { context: ActionContext }) {
  const editor = useEditor()
  // A pose changes on every frame of a drag; the tree follows structure alone.
  const parts = usePuppet((p) => p.parts)
  const root = usePuppet((p) => p.root)
  const folded = useSession((s) => s.folded)
  const selection = useSession((s) => s.selection)
  const filter = useSession((s) => s.partFilter)
  const sort = useSession((s) => s.partSort)
  const isFace = useSession((s) => s.bench === 'face')
  const isListed = isFiltering(filter) || sort !== 'order'
  const rows = useMemo(
    () => (isListed ? listedRows({ ...openPuppet(editor), parts, root }, filter, sort) : partRows({ parts, root }, folded)),
    [isListed, editor, parts, root, filter, sort, folded],
  )
  if (rows.length === 0 && isListed)
    return <Empty icon={<Layers size={22} />} title="Nothing found" text="No part meets what is asked for above." />
  if (rows.length === 0)
    return (
      <Empty
        icon={<Layers size={22} />}
        title="No parts yet"
        text="Drop layered artwork on the stage, or start from the demo in the library."
      />
    )
  const nameOf = (id: string): string => parts[id]?.name ?? ''
  const drop = (dragged: string, row: string, side: DropSide): void => {
    if (isListed) return void editor.notify('Rows can be dragged when they are listed as drawn.')
    const several = selection.kind === 'part' && selection.ids.includes(dragged) ? selection.ids : [dragged]
    const moved = several.filter((id) => !parts[id]?.locked && id !== root)
    if (moved.length === 0) return void editor.notify('Locked parts stay where they are.')
    if (moved.includes(row)) return
    if (side === 'mask') {
      selectParts(editor, dragged)
      return void maskBy(editor, dragged, row)
    }
    perform(
      editor,
      [edit(moveParts, { parts: moved, ...partLanding(openPuppet(editor), row, side) })],
      moved.length === 1 ? `Move ${nameOf(dragged)}` : `Move ${moved.length} parts`,
    )
  }
  return (
    <PartMenu context={context}>
      <div className="flex min-h-0 flex-1 flex-col">
        <TreeList
          label="Parts"
          rows={rows}
          nameOf={nameOf}
          isSelected={(id) => selection.kind === 'part' && selection.ids.includes(id)}
          canHold={(id) => parts[id]?.content.kind === 'group'}
          canMask={isFace}
          onSelect={selectRow(editor, 'part', rows)}
          onRename={(part, name) => perform(editor, [edit(renamePart, { part, name })])}
          onHover={hover(editor, 'part')}
          onDrop={drop}
          lead={(id) => (
            <>
              {parts[id]?.tag ? (
                <i
                  className="-mr-0.5 h-4 w-1 flex-none rounded-full"
                  style={{ background: `var(--tag-${parts[id].tag})` }}
                  title={TAG_NAMES[parts[id].tag]}
                />
              ) : null}
              <Thumb kind="part" id={id} faded={!parts[id]?.visible} />
            </>
          )}
          faded={(id) => !parts[id]?.visible}
          tags={(id) => <PartTags id={id} />}
        />
      </div>
    </PartMenu>
  )
}

function PartTags({ id }: { id: string }) {
  const editor = useEditor()
  const part = usePuppet((p) => p.parts[id])
  const bound = usePuppet((p) => p.parts[id]?.bind?.kind ?? null)
  const recording = useRecording((s) => s.recording)
  const isRecorded = usePuppet(
    (p) =>
      recorded(editor, p, recording)?.stop.changes.some((c) => partOfChange(c) === id || channelOfChange(c)?.startsWith(`part/${id}/`)) ===
      true,
  )
  if (!part) return null
  return (
    <>
      {isRecorded && <i className="size-1.5 flex-none rounded-full bg-cord" title="Has changes in this recording" />}
      {part.comment !== '' && (
        <span title={part.comment}>
          <MessageSquare size={12} aria-label="Has a comment" />
        </span>
      )}
      {part.merged !== null && <Combine size={13} aria-label="Is merged to one picture" />}
      {part.swap && <Layers2 size={13} aria-label="Has alternates" />}
      {part.masks.length > 0 && <Scissors size={13} aria-label="Is masked" />}
      {bound === 'whole' && <Link2 size={13} aria-label="Follows a bone" />}
      {bound === 'blended' && <Spline size={13} aria-label="Bends with bones" />}
      {part.locked && (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Unlock ${part.name}`}
          className="hover:text-ink"
          onPointerDown={(e) => e.stopPropagation()}
          onClick={(e) => {
            e.stopPropagation()
            perform(editor, [edit(lockPart, { parts: [id], locked: false })], `Unlock ${part.name}`)
          }}
        >
          <Lock size={13} />
        </button>
      )}
      <button
        type="button"
        tabIndex={-1}
        aria-label={part.visible ? `Hide ${part.name}` : `Show ${part.name}`}
        className={`hover:text-ink ${part.visible ? 'opacity-0 group-hover:opacity-100 [li:hover_&]:opacity-100' : ''}`}
        onPointerDown={(e) => e.stopPropagation()}
        onClick={(e) => {
          e.stopPropagation()
          perform(editor, [edit(showPart, { parts: [id], visible: !part.visible })], `${part.visible ? 'Hide' : 'Show'} ${part.name}`)
        }}
      >
        {part.visible ? <Eye size={14} /> : <EyeOff size={14} />}
      </button>
    </>
  )
}

function BoneTree() {
  const editor = useEditor()
  const bones = usePuppet((p) => p.bones)
  const skeleton = usePuppet((p) => p.skeleton)
  const folded = useSession((s) => s.folded)
  const selection = useSession((s) => s.selection)
  const [find, setFind] = useState('')
  const rows = useMemo(
    () => (find.trim() ? foundBones({ bones, skeleton }, find) : boneRows({ bones, skeleton }, folded)),
    [bones, skeleton, folded, find],
  )
  if (skeleton.length === 0)
    return (
      <Empty
        icon={<Spline size={22} />}
        title="No bones yet"
        text="Take the second tool and drag on the stage: from the hips up, then out along each limb."
      />
    )
  const colourOf = (id: string): string => `var(--chain-${bones[id]?.colour ?? 1})`
  const nameOf = (id: string): string => bones[id]?.name ?? ''
  return (
    <>
      <div className="mt-1.5 mr-2 flex h-7 flex-none">
        <FindField what="bones" value={find} isOn={find !== ''} onChange={setFind} onClear={() => setFind('')} />
      </div>
      {rows.length === 0 ? (
        <Empty icon={<Spline size={22} />} title="Nothing found" text="No bone has that in its name or label." />
      ) : (
        <TreeList
          label="Bones"
          rows={rows}
          nameOf={nameOf}
          isSelected={(id) => selection.kind === 'bone' && selection.ids.includes(id)}
          canHold={() => true}
          onSelect={selectRow(editor, 'bone', rows)}
          onRename={(bone, name) => perform(editor, [edit(renameBone, { bone, name })])}
          onHover={hover(editor, 'bone')}
          onDrop={(bone, row, side) => {
            if (find) return void editor.notify('Rows can be dragged when all bones are listed.')
            const { parent, index } = boneLanding(openPuppet(editor), bone, row, side)
            perform(editor, [edit(hangBone, { bone, parent, index })], `Hang ${nameOf(bone)}`)
          }}
          cordOf={colourOf}
          lead={(id) => (
            <>
              <i
                className="relative ml-[2.5px] size-[11px] flex-none rounded-full border-[2.5px] bg-paper"
                style={{ borderColor: colourOf(id) }}
              />
              <Thumb kind="bone" id={id} />
            </>
          )}
          tags={(id) => <BoneTags id={id} />}
        />
      )}
    </>
  )
}

function BoneTags({ id }: { id: string }) {
  const count = usePuppet((p) => partsOfBone(p, id).length)
  const label = usePuppet((p) => p.bones[id]?.label)
  return (
    <>
      {/* Beside the name, not part of it: the row is called by its name alone. */}
      {label && (
        <span
          aria-hidden
          data-text={label}
          title={label}
          className="max-w-16 truncate rounded bg-tint px-1 text-[11px] before:content-[attr(data-text)]"
        />
      )}
      {count > 0 && (
        <span aria-hidden data-text={count} title={`${count} parts follow`} className="num text-[11px] before:content-[attr(data-text)]" />
      )}
    </>
  )
}

function Empty({ icon, title, text }: { icon: React.ReactNode; title: string; text: string }) {
  return (
    <div className="mt-10 flex flex-1 flex-col items-center gap-2 px-4 text-center text-quiet">
      {icon}
      <b className="font-display text-[15px] font-semibold text-ink">{title}</b>
      <p>{text}</p>
    </div>
  )
}

/** Mends of all features, by the codes of what they mend. */
const MENDS: Readonly<Record<string, Mend | undefined>> = Object.assign({}, ...FEATURES.map((f) => f.mends ?? {}))

function showFinding(editor: Editor, { target, joint }: Finding): void {
  if (joint !== undefined) selectJoint(editor, joint)
  else if (target.kind === 'bone') selectBones(editor, target.id)
  else if (target.kind === 'response') openResponse(editor, target.id)
  else selectParts(editor, target.id)
}

/** The gravest finding of this bench with the way to it; the rest on demand. */
function FindingNote() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const findings = findingsAt(useFindings(), bench)
  const [at, setAt] = useState(0)
  const finding: Finding | undefined = findings[at % Math.max(1, findings.length)]
  const mend = finding && MENDS[finding.code]
  const naming = usePuppet((p) => p.naming)
  const name = usePuppet((p) => p.name)
  return (
    <footer className="flex-none pr-3">
      {finding && (
        <div className="mb-2 flex items-center gap-2 rounded-[10px] bg-brass-soft px-3 py-2.5 text-xs/4">
          <p className="flex-1">
            <b>{finding.target.name}</b> {finding.message}
            {findings.length > 1 && (
              <button type="button" className="ml-1 underline decoration-dotted" onClick={() => setAt(at + 1)}>
                {(at % findings.length) + 1} of {findings.length}
              </button>
            )}
          </p>
          <span className="flex flex-col gap-1">
            <Button small onClick={() => showFinding(editor, finding)}>
              Show
            </Button>
            {mend && (
              <Button small onClick={() => mend.run(editor, finding)}>
                {mend.label}
              </Button>
            )}
          </span>
        </div>
      )}
      <button
        type="button"
        className="cap block w-full truncate text-left hover:text-ink hover:underline"
        onClick={() => openPanel(editor, 'names')}
      >
        {naming === 'character-side'
          ? `Left and right are ${name}’s own sides`
          : naming === 'viewer-side'
            ? 'Left and right are the viewer’s sides'
            : 'Limbs are named near and far'}
      </button>
    </footer>
  )
}
