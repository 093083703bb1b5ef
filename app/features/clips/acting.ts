/**
 * The clip that is looked at in Rehearse, and the moment of it. While one is open the puppet is seen as the clip has it, and whatever is
 * posed goes into the clip: into keys where keying is automatic, else over the clip, where it waits to be kept or dropped.
 */
import { freeName } from '@marionette/core/kernel/freeName'
import { baseOf } from '@marionette/core/clips/lookup'
import type { Clip, ClipLayer } from '@marionette/core/clips/records'
import { poseInClip } from '@marionette/core/playing/clips'
import { clipSimulation } from '@marionette/core/playing/motionRun'
import type { Puppet } from '@marionette/core/puppet/schema'
import { inView, shownView } from '@marionette/core/views/views'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import { lookAnew, openPuppet, useDocument } from '../../editor/document'
import { play, type Simulated } from '../../editor/live'
import { useSession } from '../../editor/session'
import { recordingNow } from '../responses/recording'

/** A key that is chosen: its channel and its time. */
export interface ChosenKey {
  readonly channel: string
  readonly time: number
}

export type RowFilter = 'keyed' | 'selected' | 'moving'

/** Which other moments are drawn under the one that is looked at. */
export interface Onion {
  readonly isOn: boolean
  readonly before: number
  readonly after: number
  readonly by: 'keys' | 'frames'
  /** How much is seen of the nearest, 0 to 1. */
  readonly strength: number
}

interface ActingState {
  /** The clip that is open; the first where that is gone. */
  readonly clip: string | null
  /** The layer that keys go to; the base where that is gone. */
  readonly layer: string | null
  /** The moment that is looked at, seconds. */
  readonly time: number
  readonly isPlaying: boolean
  /** Pictures that were left out since playing began. */
  readonly dropped: number
  readonly loops: boolean
  /** Whether each frame is shown, also where that takes longer than it should. */
  readonly playsEveryFrame: boolean
  /** Which rows are listed: of all that is keyed, of what is selected, of what really moves. */
  readonly rows: RowFilter
  readonly isAutoKey: boolean
  readonly keys: readonly ChosenKey[]
  /** The chosen pose on the line. */
  readonly pose: string | null
  /** The chosen sound. */
  readonly sound: string | null
  /** The chosen mouth shape of a layer that speaks. */
  readonly shape: { readonly layer: string; readonly index: number } | null
  /** Channels whose curves are looked at, also while keys of only some of them are chosen. */
  readonly curves: readonly string[]
  readonly showsCurves: boolean
  /** Whether each curve fills the height, whatever its values. */
  readonly isNormalised: boolean
  readonly onion: Onion
  /** Whether the path of the selected bone shows on the stage. */
  readonly showsPath: boolean
  /** Rows of groups that are unfolded. */
  readonly unfolded: ReadonlySet<string>
}

const BEGINNING: ActingState = {
  clip: null,
  layer: null,
  time: 0,
  isPlaying: false,
  dropped: 0,
  loops: true,
  playsEveryFrame: false,
  rows: 'keyed',
  isAutoKey: false,
  keys: [],
  pose: null,
  sound: null,
  shape: null,
  curves: [],
  showsCurves: false,
  isNormalised: false,
  onion: { isOn: false, before: 1, after: 1, by: 'keys', strength: 0.5 },
  showsPath: true,
  unfolded: new Set(),
}

export const useActing = editorStore<ActingState>(() => BEGINNING)

const stateOf = (editor: Editor): ActingState => useActing.of(editor).getState()

/** Changes what is looked at. One kind of thing is chosen at a time: keys or a pose take the place of a sound or a mouth shape. */
export function setActing(editor: Editor, state: Partial<ActingState>): void {
  const isChosen = (state.keys?.length ?? 0) > 0 || typeof state.pose === 'string'
  useActing.of(editor).setState(isChosen ? { sound: null, shape: null, ...state } : state)
}

/** The clip among those of a puppet that is open; undefined where it has none. */
const openIn = (puppet: Puppet, clip: string | null): Clip | undefined => puppet.clips.find((c) => c.id === clip) ?? puppet.clips[0]

/** The open clip of the open puppet; null outside Rehearse, and where there is none. */
export function clipNow(editor: Editor): Clip | null {
  if (useSession.of(editor).getState().bench !== 'rehearse') return null
  const { history } = useDocument.of(editor).getState()
  return (history && openIn(history.puppet, stateOf(editor).clip)) ?? null
}

/** The open clip, drawn again when it changes. */
export function useClip(): Clip | null {
  const id = useActing((s) => s.clip)
  const isHere = useSession((s) => s.bench === 'rehearse')
  return useDocument((s) => (isHere && s.puppet && openIn(s.puppet, id)) || null)
}

const layerIn = (clip: Clip, id: string | null): ClipLayer => clip.layers.find((layer) => layer.id === id) ?? baseOf(clip)

/** The layer of a clip that keys go to. */
export const layerNow = (editor: Editor, clip: Clip): string => layerIn(clip, stateOf(editor).layer).id

/** The same, drawn again when another is chosen. */
export const useLayer = (clip: Clip): ClipLayer =>
  layerIn(
    clip,
    useActing((s) => s.layer),
  )

/** The time of the frame that is nearest to a time. */
export const toFrame = ({ rate }: Pick<Clip, 'rate'>, time: number): number => Math.round(time * rate) / rate

/** Whether edits go into a clip: one is open, and nothing is recorded. */
export const isActing = (editor: Editor): boolean => clipNow(editor) !== null && recordingNow(editor) === null

interface Seen {
  readonly of: Puppet
  readonly clip: Clip
  readonly time: number
  readonly puppet: Puppet
}

const lastSeen = editorState((): { seen: Seen | null } => ({ seen: null }))

/** A puppet posed as the open clip has it at the moment, written as it is in the view that the clip shows then; the same for the same moment. */
export function seenInClip(editor: Editor, puppet: Puppet): Puppet {
  const own = lastSeen(editor)
  const clip = openIn(puppet, stateOf(editor).clip)
  if (!clip) return puppet
  const { time } = stateOf(editor)
  if (own.seen?.of === puppet && own.seen.clip === clip && own.seen.time === time) return own.seen.puppet
  const pose = poseInClip(puppet, clip, time)
  own.seen = { of: puppet, clip, time, puppet: { ...inView(puppet, shownView(puppet, pose)), pose } }
  return own.seen.puppet
}

/** Looks at another moment. Nothing that was posed is lost by that: it lies over the clip. */
export function seek(editor: Editor, time: number): void {
  const clip = clipNow(editor)
  if (!clip) return
  setActing(editor, { time: Math.min(clip.length, Math.max(0, time)), isPlaying: false })
  showMoment(editor)
}

/** What moves by itself at a moment of the open clip. */
export function simulatedAt(editor: Editor, time: number): Simulated {
  return (rig) => {
    // Asked for at each picture: a clip that is being changed is another one each time.
    const clip = clipNow(editor)
    return clip ? clipSimulation(rig, clip, time) : null
  }
}

/** Shows the moment that is looked at; what follows from the time alone is shown at it, too. */
export function showMoment(editor: Editor): void {
  const { time } = stateOf(editor)
  play(editor, {}, time, simulatedAt(editor, time))
  lookAnew(editor)
}

/** Ends what played besides: the open clip is shown at its moment, else the puppet as it is posed. */
export function showAsActed(editor: Editor): void {
  if (clipNow(editor)) return showMoment(editor)
  play(editor, null)
  lookAnew(editor)
}

/** Opens a clip at its beginning. */
export function openClip(editor: Editor, id: string): void {
  setActing(editor, { clip: id, layer: null, time: 0, isPlaying: false, keys: [], pose: null, sound: null, shape: null })
  showMoment(editor)
}

/** Follows the bench: a clip is seen in Rehearse alone. Returns how to end that. */
export function followBench(editor: Editor): () => void {
  const look = (): void => {
    if (!clipNow(editor) && stateOf(editor).isPlaying) setActing(editor, { isPlaying: false })
    showAsActed(editor)
  }
  let clips = useDocument.of(editor).getState().history?.puppet.clips
  const ends = [
    useSession.of(editor).subscribe((s, before) => s.bench !== before.bench && look()),
    // What hangs on the clip that was open goes with it.
    useDocument.of(editor).subscribe((s) => {
      const now = s.history?.puppet.clips
      if (now === clips) return
      const hadOne = (clips?.length ?? 0) > 0
      clips = now
      if (hadOne !== (now?.length ?? 0) > 0) look()
    }),
  ]
  if (useSession.of(editor).getState().bench === 'rehearse' && useDocument.of(editor).getState().history) look()
  return () => {
    ends.forEach((end) => end())
    play(editor, null)
    useActing.of(editor).setState(BEGINNING)
  }
}

/** A name for a clip that no other has. */
export const freeClipName = (editor: Editor, base: string): string => freeName(openPuppet(editor).clips, base)
