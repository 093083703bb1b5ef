/** Views: the sides from which a puppet is drawn. */
import { z } from 'zod'
import { Name } from '../kernel/numbers'
import { ViewId } from '../kernel/ids'

/** A side from which the character is drawn. */
export const View = z.object({ id: ViewId, name: Name })

export type View = z.infer<typeof View>
