/** The skeletons of templates, to be put on an empty stage and drawn over. */
import { DropdownMenu } from 'radix-ui'
import { Shapes } from 'lucide-react'
import { useNavigate } from 'react-router'
import { TEMPLATES } from '@marionette/core/templates/builtin'
import { figureEdits } from '@marionette/core/templates/figure'
import { freshId } from '@marionette/core/kernel/ids'
import type { Template } from '@marionette/core/templates/template'
import { openPuppet, perform } from '../../editor/document'
import { useEditor } from '../../editor/editor'
import { Button } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'

export default function FigureMenu() {
  const editor = useEditor()
  const navigate = useNavigate()
  const put = (template: Template): void => {
    const puppet = openPuppet(editor)
    if (perform(editor, figureEdits(puppet, template, freshId('figure')), `Skeleton of ${template.name}`))
      void navigate(`/puppet/${puppet.id}/bones`)
  }
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>
          <Shapes size={15} /> Skeleton
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} sideOffset={4}>
          {TEMPLATES.map((template) => (
            <DropdownMenu.Item key={template.id} className={MENU_ITEM} onSelect={() => put(template)}>
              {template.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
