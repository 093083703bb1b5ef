/** npm run -s rig -- …: the command line. */
import { runBundled } from './setup.mjs'

runBundled('rig')
