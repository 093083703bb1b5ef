/** Sounds of the open clip: brought in, recorded, said by the stand-in voice, and turned into mouth shapes. */
import { assetHash, sniffSound } from '@marionette/formats/assets'
import { deleteLayer, setClip } from '@marionette/core/clips/commands'
import { deleteKeys } from '@marionette/core/clips/keyCommands'
import { weightChannel } from '@marionette/core/clips/layers'
import { baseOf } from '@marionette/core/clips/lookup'
import type { Clip, SoundPiece } from '@marionette/core/clips/records'
import { addSound, deleteSound, LEAST, setSound, splitSound } from '@marionette/core/clips/soundCommands'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { speechEdits } from '@marionette/core/playing/speechKeys'
import type { SpeechTrack } from '@marionette/core/speech/track'
import { sendAssets } from '../../editor/assets'
import { perform, useDocument } from '../../editor/document'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import { orSaid } from '../../editor/work'
import { decoded, decodeSound, keepDecoded, monoOf } from '../../sound/decoded'
import { startRecorder, type Recorder } from '../../sound/recorder'
import { clipNow, setActing, toFrame, useActing } from './acting'

interface SoundingState {
  /** What is being read or recorded; null while nothing is. */
  readonly busy: 'reading' | 'recording' | 'speaking' | null
  /** How much of a sound has been listened to, from 0 to 1; null while nothing is. */
  readonly heard: number | null
}

export const useSounding = editorStore<SoundingState>(() => ({ busy: null, heard: null }))
const ownOf = editorState((): { recorder: Recorder | null; listening: AbortController | null } => ({ recorder: null, listening: null }))

/** What a clip keeps after the last sound in it, seconds. */
const AFTER = 0.25

/** Edits that make a clip long enough for what ends at a time. */
function longerFor(clip: Clip, end: number): Edit[] {
  const length = Math.ceil((end + AFTER) * clip.rate) / clip.rate
  return end > clip.length ? [edit(setClip, { clip: clip.id, length })] : []
}

/** The moment that is looked at, on a frame. */
const momentOf = (editor: Editor, clip: Clip): number => toFrame(clip, useActing.of(editor).getState().time)

/** Stores a sound, and makes a piece of all of it. Throws Error in one sentence. */
async function storedPiece(editor: Editor, bytes: Uint8Array, name: string, at: number): Promise<SoundPiece> {
  if (!sniffSound(bytes)) throw new Error(`“${name}” is no sound that is read: WAV, MP3, M4A, OGG and FLAC are.`)
  const sound = await decodeSound(bytes, name)
  const asset = assetHash(bytes)
  keepDecoded(editor, asset, sound)
  await sendAssets(editor, new Map([[asset, bytes]]))
  const { duration } = sound
  return {
    id: freshId('sound'),
    name: name.slice(0, 120) || 'Sound',
    asset,
    duration,
    at,
    from: 0,
    length: duration,
    volume: 1,
    muted: false,
  }
}

/** Reads a sound and puts it into the open clip at the moment; says why where that fails. */
export async function importSound(editor: Editor, file: File): Promise<void> {
  const clip = clipNow(editor)
  if (!clip) return void editor.notify('Open a clip first: sounds are heard in clips.')
  useSounding.of(editor).setState({ busy: 'reading' })
  const piece = await orSaid(editor, async () =>
    storedPiece(editor, new Uint8Array(await file.arrayBuffer()), file.name, momentOf(editor, clip)),
  )
  useSounding.of(editor).setState({ busy: null })
  if (piece) put(editor, piece, `Add ${piece.name}`)
}

function put(editor: Editor, piece: SoundPiece, label: string, more: (clip: Clip) => readonly Edit[] = () => []): void {
  const clip = clipNow(editor)
  if (!clip) return
  const edits = [...longerFor(clip, piece.at + piece.length), edit(addSound, { clip: clip.id, sound: piece }), ...more(clip)]
  if (perform(editor, edits, label)) setActing(editor, { sound: piece.id, keys: [], pose: null })
}

/** Begins to record from the microphone; what was recorded goes into the clip when it ends. */
export async function record(editor: Editor): Promise<void> {
  const own = ownOf(editor)
  // The browser may ask for leave first; meanwhile nothing else begins.
  useSounding.of(editor).setState({ busy: 'reading' })
  own.recorder = await orSaid(editor, startRecorder)
  useSounding.of(editor).setState({ busy: own.recorder ? 'recording' : null })
}

/** Returns how to close the microphone when the puppet is left; what was recorded until then is dropped. */
export const endRecordings =
  (editor: Editor): (() => void) =>
  () => {
    void ownOf(editor).recorder?.stop()
    ownOf(editor).recorder = null
  }

export const recordingLevel = (editor: Editor): number => ownOf(editor).recorder?.level() ?? 0

export async function endRecording(editor: Editor): Promise<void> {
  const own = ownOf(editor)
  const { recorder } = own
  own.recorder = null
  useSounding.of(editor).setState({ busy: recorder ? 'reading' : null })
  const piece = recorder && (await orSaid(editor, () => recordedPiece(editor, recorder)))
  useSounding.of(editor).setState({ busy: null })
  if (piece) put(editor, piece, 'Record sound')
}

/** What was recorded, as plain WAV: what browsers record in is read by few. */
async function recordedPiece(editor: Editor, recorder: Recorder): Promise<SoundPiece> {
  const blob = await recorder.stop()
  if (!blob) throw new Error('Nothing was recorded.')
  const sound = await decodeSound(new Uint8Array(await blob.arrayBuffer()), 'The recording')
  const wav = await editor.jobs.wav({ samples: monoOf(sound), rate: sound.sampleRate })
  const clip = clipNow(editor)
  return storedPiece(editor, wav, `Recording ${(clip?.sounds.length ?? 0) + 1}`, clip ? momentOf(editor, clip) : 0)
}

/** Edits that take a line out of a clip that is heard with a sound. */
function withoutLineOf(clip: Clip, sound: string): Edit[] {
  return clip.layers.slice(1).flatMap((layer) => {
    if (layer.spoken?.sound !== sound) return []
    const base = baseOf(clip)
    const channel = weightChannel(layer.id)
    const weights = base.tracks[channel]?.keys.map(({ time }) => ({ channel, time })) ?? []
    return [
      ...(weights.length > 0 ? [edit(deleteKeys, { clip: clip.id, layer: base.id, keys: weights })] : []),
      edit(deleteLayer, { clip: clip.id, layer: layer.id }),
    ]
  })
}

/** Edits that put a line into a clip; says where nothing of the puppet speaks. */
function lineEdits(
  editor: Editor,
  clip: Clip,
  track: SpeechTrack,
  line: { name: string; start: number; mood: string; sound: string | null },
): Edit[] {
  const puppet = useDocument.of(editor).getState().history?.puppet
  const edits = puppet ? speechEdits(puppet, clip, track, { ...line, id: freshId('layer'), name: line.name.slice(0, 60) }) : []
  if (edits.length === 0) editor.notify('Nothing speaks yet: give alternates their mouth shapes, or build a mouth.')
  return edits
}

/** Turns what is heard of a sound into mouth shapes, in a layer of its own; one that was made of it before is replaced. */
export async function speakSound(editor: Editor, id: string, mood = ''): Promise<void> {
  const own = ownOf(editor)
  const abort = (own.listening = new AbortController())
  const piece = clipNow(editor)?.sounds.find((s) => s.id === id)
  if (!piece) return
  useSounding.of(editor).setState({ heard: 0 })
  const track = await orSaid(editor, async () => {
    const sound = await decoded(editor, piece.asset)
    const rate = sound.sampleRate
    const samples = monoOf(sound).slice(Math.round(piece.from * rate), Math.round((piece.from + piece.length) * rate))
    const progress = (heard: number): void => void (own.listening === abort && useSounding.of(editor).setState({ heard }))
    return editor.jobs.hearSound({ samples, rate }, progress, abort.signal)
  })
  if (own.listening === abort) {
    // Word of progress may still be on its way.
    own.listening = null
    useSounding.of(editor).setState({ heard: null })
  }
  const clip = clipNow(editor)
  const still = clip?.sounds.find((s) => s.id === id)
  if (!track || !clip || !still || abort.signal.aborted) return
  const edits = lineEdits(editor, clip, track, { name: still.name, start: still.at, mood, sound: id })
  if (edits.length > 0) perform(editor, [...withoutLineOf(clip, id), ...edits], `Lip sync of ${still.name}`)
}

export const cancelListening = (editor: Editor): void => ownOf(editor).listening?.abort()

/** Reads a recording, and turns it into mouth shapes as well. */
export async function speakFile(editor: Editor, file: File, mood: string): Promise<void> {
  await importSound(editor, file)
  const { sound } = useActing.of(editor).getState()
  if (sound !== null && clipNow(editor)?.sounds.some((s) => s.id === sound)) await speakSound(editor, sound, mood)
}

/** Puts a typed line into the clip at the moment, with the stand-in voice that says it where it is to be heard. */
export async function speakLine(editor: Editor, line: string, mood: string, isAloud: boolean): Promise<void> {
  if (line.trim() === '') return void editor.notify('Type something to say first.')
  const name = line.trim()
  useSounding.of(editor).setState({ busy: 'speaking' })
  const said = await orSaid(editor, () => editor.jobs.speak(line, 1, isAloud))
  const begun = clipNow(editor)
  const start = begun ? momentOf(editor, begun) : 0
  const piece = said?.sound ? await orSaid(editor, () => storedPiece(editor, said.sound as Uint8Array, name.slice(0, 40), start)) : null
  useSounding.of(editor).setState({ busy: null })
  const clip = clipNow(editor)
  if (!said || !clip) return
  const label = `Speak “${name.slice(0, 30)}”`
  const lines = lineEdits(editor, clip, said.track, { name, start, mood, sound: piece?.id ?? null })
  if (lines.length === 0) return
  if (piece) put(editor, piece, label, () => lines)
  else perform(editor, [...longerFor(clip, start + said.track.duration), ...lines], label)
}

const chosenSound = (editor: Editor): SoundPiece | undefined =>
  clipNow(editor)?.sounds.find(({ id }) => id === useActing.of(editor).getState().sound)

export function removeSound(editor: Editor, id: string): void {
  const clip = clipNow(editor)
  if (clip && perform(editor, [edit(deleteSound, { clip: clip.id, sound: id })])) setActing(editor, { sound: null })
}

/** Splits the chosen sound at the moment. */
export function splitChosenSound(editor: Editor): void {
  const [clip, sound] = [clipNow(editor), chosenSound(editor)]
  if (!clip || !sound) return void editor.notify('Choose a sound first, by a press on it.')
  const id = freshId('sound')
  if (perform(editor, [edit(splitSound, { clip: clip.id, sound: sound.id, time: useActing.of(editor).getState().time, id })]))
    setActing(editor, { sound: id })
}

/** What of a sound is dragged: when it is heard, where it begins, or where it ends. */
export type SoundGrip = 'all' | 'start' | 'end'

/** The edit that a drag of a piece by some seconds comes to. */
export function draggedSound(clip: Clip, piece: SoundPiece, grip: SoundGrip, by: number): Edit {
  const place = { clip: clip.id, sound: piece.id }
  if (grip === 'all') return edit(setSound, { ...place, at: Math.max(0, toFrame(clip, piece.at + by)) })
  if (grip === 'end') {
    const most = piece.duration - piece.from
    return edit(setSound, { ...place, length: Math.min(most, Math.max(LEAST, toFrame(clip, piece.at + piece.length + by) - piece.at)) })
  }
  // Its end stays where it is.
  const at = Math.max(0, piece.at - piece.from, Math.min(piece.at + piece.length - LEAST, toFrame(clip, piece.at + by)))
  const shift = at - piece.at
  return edit(setSound, { ...place, at, from: Math.max(0, piece.from + shift), length: piece.length - shift })
}
