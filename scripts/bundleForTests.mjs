/** Before tests: server and command line as they are now. */
import { ensureBundle } from './setup.mjs'

export default () => ensureBundle({ quiet: true })
