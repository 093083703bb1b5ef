/** Whether idle life shows while the puppet is posed. */
import { editorStore } from './editor'

export const useLiving = editorStore(() => ({ isOn: false }))
