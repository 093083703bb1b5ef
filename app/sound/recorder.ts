/** Recording from the microphone. */

export interface Recorder {
  /** How loud it is just now, from 0 to 1. */
  level(): number
  /** Ends it, and gives what was recorded; null where nothing was. */
  stop(): Promise<Blob | null>
}

/** What the browser says when it gives no microphone, in words for people. */
function refusal(error: unknown): Error {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError' || name === 'SecurityError')
    return new Error('The browser keeps the microphone closed: allow it for this page, then try again.')
  if (name === 'NotFoundError') return new Error('There is no microphone here; the stand-in voice says typed lines instead.')
  return new Error('The microphone cannot be used just now.')
}

/** Begins to record. Throws Error in one sentence. */
export async function startRecorder(): Promise<Recorder> {
  // Pages that are not served safely have none.
  const devices = (navigator as { mediaDevices?: MediaDevices }).mediaDevices
  if (!devices || typeof MediaRecorder === 'undefined') throw new Error('This browser has no microphone to offer here.')
  const stream = await devices
    .getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } })
    .catch((error: unknown) => {
      throw refusal(error)
    })
  const context = new AudioContext()
  const meter = context.createAnalyser()
  meter.fftSize = 1024
  context.createMediaStreamSource(stream).connect(meter)
  const samples = new Float32Array(meter.fftSize)
  const chunks: Blob[] = []
  const recorder = new MediaRecorder(stream)
  recorder.ondataavailable = ({ data }) => void (data.size > 0 && chunks.push(data))
  recorder.start()
  return {
    level() {
      meter.getFloatTimeDomainData(samples)
      return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
    },
    stop: () =>
      new Promise((resolve) => {
        recorder.onstop = () => {
          for (const track of stream.getTracks()) track.stop()
          void context.close()
          resolve(chunks.length > 0 ? new Blob(chunks, { type: recorder.mimeType }) : null)
        }
        recorder.stop()
      }),
  }
}
