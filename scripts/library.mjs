/** npm run -s library -- …: backups of the library. */
import { runBundled } from './setup.mjs'

runBundled('library')
