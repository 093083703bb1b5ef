/** The board: moods and sounds as pictures. A mood is taken up, a sound is held over whatever mood there is. */
import { Camera, Plus } from 'lucide-react'
import { ContextMenu } from 'radix-ui'
import { useState, type ReactNode } from 'react'
import { boardEdits } from '@marionette/core/face/expressions'
import { movedChannels, channelOf } from '@marionette/core/puppet/channels'
import { freshId } from '@marionette/core/kernel/ids'
import type { FaceRole, Puppet, SavedPose } from '@marionette/core/puppet/schema'
import { forgetPose, keepPose, moodOf, renamePose, takeMood } from '@marionette/core/poses/saved'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { Group } from '../../panels/Group'
import { usePicture } from '../../pictures/posePictures'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, usePuppet } from '../../editor/document'
import { holdSound, usePlaying } from './playing'
import { openPanel } from '../../editor/session'
import { Button } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { useBoard, type BoardItem } from './board'
import { useBlend } from '../posing/blend'
import { edit } from '@marionette/core/kernel/command'
import { mirroredPose } from '@marionette/core/puppet/mirror'
import { useEditor, type Editor } from '../../editor/editor'
import { recordOf, sure } from '@marionette/core/kernel/sure'

/** The pose of the moment, as far as it moves anything. */
const presentValues = (puppet: Puppet): Record<string, number> =>
  Object.fromEntries(movedChannels(puppet).map((address) => [address, recordOf(puppet.pose, address)]))

const keep = (editor: Editor, pose: SavedPose, label: string): void => void perform(editor, [edit(keepPose, { pose })], label)

function keepPresent(editor: Editor, face: FaceRole, name: string, id: string = freshId('face')): void {
  keep(editor, { id, name, values: presentValues(openPuppet(editor)), face }, `Keep ${name}`)
}

export function BoardGroup() {
  const editor = useEditor()
  const mood = usePlaying((s) => s.mood)
  const [strength, setStrength] = useState(100)
  const { moods, sounds, region, missing } = useBoard(mood)
  const shown = usePuppet((p) => moodOf(p, channelOf))
  const posed = usePuppet((p) => movedChannels(p).length > 0)
  const propose = (): void => void perform(editor, boardEdits(openPuppet(editor), freshId('face')), 'Propose expressions and mouth shapes')
  if (moods.length + sounds.length === 0 && missing === 0) return null
  return (
    <>
      <Group id="moods" title="Expressions" aside={<span className="cap">{moods.length}</span>}>
        {moods.length === 0 && (
          <p className="cap mb-2">Expressions hang here as pictures: pose the face and keep it, or let some be proposed.</p>
        )}
        <ul aria-label="Expressions" className="grid grid-cols-4 gap-x-1.5 gap-y-2">
          {moods.length > 0 && <Calm isOn={shown === null} share={strength / 100} region={region} />}
          {moods.map((item) => (
            <MoodTile key={item.id} item={item} isOn={shown === item.id} share={strength / 100} region={region} />
          ))}
        </ul>
        {moods.length > 0 && (
          <div className="mt-2">
            <NumberField
              label="Strength"
              value={strength}
              rest={100}
              unit="%"
              min={5}
              max={100}
              digits={0}
              onChange={(v) => setStrength(v ?? 100)}
              onDrag={setStrength}
            />
          </div>
        )}
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button small disabled={!posed} onClick={() => keepPresent(editor, 'mood', `Expression ${moods.length + 1}`)}>
            <Camera size={13} /> Keep this face
          </Button>
          {missing > 0 && (
            <Button small onClick={propose}>
              <Plus size={12} /> Propose {missing}
            </Button>
          )}
          {moods.length + sounds.length > 0 && (
            <Button small onClick={() => openPanel(editor, 'faces')}>
              Check all…
            </Button>
          )}
        </div>
      </Group>
      {sounds.length > 0 && (
        <Group id="board-sounds" title="Mouth shapes">
          <ul aria-label="Mouth shapes" className="grid grid-cols-4 gap-x-1.5 gap-y-2">
            {sounds.map((item) => (
              <SoundTile key={item.id} item={item} region={region} />
            ))}
          </ul>
        </Group>
      )}
    </>
  )
}

function Calm({ isOn, share, region }: Omit<MoodProps, 'item'>) {
  const editor = useEditor()
  const url = usePicture({}, region, `calm ${JSON.stringify(region)}`)
  return (
    <Tile
      label="Calm"
      url={url}
      isOn={isOn}
      onTake={() => perform(editor, [edit(takeMood, { mood: null, share })], 'Calm down')}
      caption={<span>Calm</span>}
    />
  )
}

interface MoodProps {
  readonly item: BoardItem
  /** Whether the face is in it. */
  readonly isOn: boolean
  /** How far a click goes. */
  readonly share: number
  readonly region: Bounds | null
}

function MoodTile({ item, isOn, share, region }: MoodProps) {
  const editor = useEditor()
  const pose = sure(item.pose)
  const url = usePicture(item.values, region, JSON.stringify([item.values, region]))
  const take = (by: number) => edit(takeMood, { mood: pose.id, share: by })
  const blend = useBlend({
    begin: () => beginGesture(editor, `Blend to ${pose.name}`),
    move: (by) => updateGesture(editor, [take(by)]),
    end: (kept) => endGesture(editor, kept),
    click: () => void perform(editor, [take(share)], `Take up ${pose.name}`),
  })
  const mirror = (): void => {
    const values = mirroredPose(openPuppet(editor), pose.values)
    keep(editor, { id: freshId('face'), name: `${pose.name}, mirrored`, values, face: 'mood' }, `Mirror ${pose.name}`)
  }
  return (
    <BoardMenu
      items={[
        ['Keep what is shown as this', () => keepPresent(editor, 'mood', pose.name, pose.id)],
        ['Keep its mirror image', mirror],
        ['Forget it', () => void perform(editor, [edit(forgetPose, { pose: pose.id })], `Forget ${pose.name}`)],
      ]}
    >
      <Tile
        label={pose.name}
        url={url}
        isOn={isOn}
        blend={blend}
        onTake={() => void perform(editor, [take(share)], `Take up ${pose.name}`)}
        caption={
          <NameInput
            label={`Name of ${pose.name}`}
            name={pose.name}
            onRename={(name) => perform(editor, [edit(renamePose, { pose: pose.id, name })])}
          />
        }
      />
    </BoardMenu>
  )
}

function SoundTile({ item, region }: { item: BoardItem; region: Bounds | null }) {
  const editor = useEditor()
  const viseme = sure(item.viseme)
  const isOn = usePlaying((s) => s.held === viseme)
  const url = usePicture(item.values, region, JSON.stringify([item.values, region]))
  const [short] = item.label.split(' ')
  return (
    <BoardMenu
      items={[
        ['Keep what is posed as this mouth shape', () => keepPresent(editor, viseme, item.label, item.pose?.id)],
        ...(item.pose
          ? [['Forget what was kept', () => void perform(editor, [edit(forgetPose, { pose: sure(item.pose).id })])] as const]
          : []),
      ]}
    >
      <Tile
        label={`Mouth shape ${item.label}`}
        url={url}
        isOn={isOn}
        onTake={() => holdSound(editor, viseme)}
        caption={<span>{short}</span>}
      />
    </BoardMenu>
  )
}

function BoardMenu({ items, children }: { items: readonly (readonly [string, () => void])[]; children: ReactNode }) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          {items.map(([label, run]) => (
            <ContextMenu.Item key={label} className={MENU_ITEM} onSelect={run}>
              {label}
            </ContextMenu.Item>
          ))}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}

interface TileProps {
  readonly label: string
  readonly url: string
  readonly isOn: boolean
  readonly caption: ReactNode
  readonly onTake: () => void
  /** Handlers of a drag that blends; without them a click takes it. */
  readonly blend?: ReturnType<typeof useBlend>
}

function Tile({ label, url, isOn, caption, onTake, blend, ...menu }: TileProps) {
  return (
    <li className="min-w-0" {...menu}>
      <button
        type="button"
        aria-label={label}
        aria-pressed={isOn}
        title={blend ? 'Click to take it up, drag sideways to blend, right-click for more' : undefined}
        className={`block aspect-square w-full overflow-hidden rounded-lg bg-[var(--stage)] ${blend ? 'touch-none' : ''} ${isOn ? 'shadow-[0_0_0_2px_var(--panel),0_0_0_4px_var(--cord)]' : 'hover:shadow-[0_0_0_2px_var(--twine)]'}`}
        {...(blend ?? { onClick: onTake })}
        onKeyDown={(e) => blend && e.key === 'Enter' && onTake()}
      >
        {url && <img src={url} alt="" draggable={false} className="size-full object-cover" />}
      </button>
      <div
        className={`-mt-0.5 flex truncate text-[11px]/[18px] [&_input]:h-5 [&_input]:text-[11px] ${isOn ? 'font-semibold text-cord' : 'text-quiet'}`}
      >
        {caption}
      </div>
    </li>
  )
}
