/** The floating bar with the tools of the bench, each with its number key. */
import { useSession, useTool } from '../editor/session'
import { Hint } from '../ui/Button'
import { takeTool, TOOLBELTS } from './tools'
import { useEditor } from '../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { Toolbar } from 'radix-ui'

export function Toolbelt() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const belt = TOOLBELTS[bench]
  const current = useTool(bench, nth(belt, 0).id)
  return (
    <Toolbar.Root
      aria-label="Tools"
      className="stitched absolute bottom-3 left-1/2 flex -translate-x-1/2 gap-0.5 rounded-2xl bg-panel p-1.5 shadow-2 max-[1150px]:translate-x-[-38%]"
    >
      {belt.map((tool, i) => {
        const on = tool.id === current
        const Icon = tool.icon
        return (
          <Hint key={tool.id} label={tool.name} keys={String(i + 1)} side="top">
            <Toolbar.Button
              aria-label={tool.name}
              aria-pressed={on}
              onClick={() => takeTool(editor, bench, tool.id)}
              className={`h-11 rounded-[10px] ${on ? 'flex items-center gap-2 bg-ink pr-3.5 pl-3 text-panel' : 'grid w-11 place-content-center justify-items-center gap-px hover:bg-tint max-[1150px]:w-[38px]'}`}
            >
              <Icon size={20} />
              {on && <b className="font-semibold whitespace-nowrap">{tool.name}</b>}
              <span
                aria-hidden
                data-text={i + 1}
                className={`text-[11px]/3 font-medium before:content-[attr(data-text)] ${on ? 'opacity-75' : 'text-quiet'}`}
              />
            </Toolbar.Button>
          </Hint>
        )
      })}
    </Toolbar.Root>
  )
}
