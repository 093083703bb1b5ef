/** The toolbelt of each bench, from the table of features. */
import { setTool, useSession, type BenchId } from '../editor/session'
import { FEATURES } from '../features/features'
import type { Tool } from '../stage/tool'
import { BENCHES } from './benches'
import type { Editor } from '../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

/** Tools of a bench in their order. */
const beltOf = (bench: BenchId): Tool[] =>
  FEATURES.flatMap((f) => f.tools ?? [])
    .filter((t) => t.bench === bench)
    .sort((a, b) => a.place - b.place)
    .map((t) => t.tool)

export const TOOLBELTS = Object.fromEntries(BENCHES.map(({ id }) => [id, beltOf(id)])) as unknown as Readonly<
  Record<BenchId, readonly Tool[]>
>

/** Takes another tool; the one in hand is laid down. */
export const takeTool = setTool

/** Lays tools down that are exchanged for others; returns how to end that. */
export const followTools = (editor: Editor): (() => void) =>
  useSession.of(editor).subscribe((now, before) => {
    for (const { id } of BENCHES) if (now.tools[id] !== before.tools[id]) end(editor, toolCalled(id, before.tools[id]))
  })

const toolCalled = (bench: BenchId, id: string | undefined): Tool => TOOLBELTS[bench].find((t) => t.id === id) ?? nth(TOOLBELTS[bench], 0)

function end(editor: Editor, tool: Tool): void {
  tool.cancel(editor)
  tool.leave?.(editor)
}

/** Ends what the tool of a bench has in progress. */
export const layDown = (editor: Editor, bench: BenchId): void => end(editor, toolOf(editor, bench))

/** The tool in hand at a bench. */
export const toolOf = (editor: Editor, bench: BenchId): Tool => toolCalled(bench, useSession.of(editor).getState().tools[bench])
