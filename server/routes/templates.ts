/** /api/templates and /api/motions: skeletons, and clips as ready motions, that people saved for the next puppet. */
import { Hono } from 'hono'
import { KeptMotion } from '@marionette/core/motions/kept'
import { Template } from '@marionette/core/templates/template'
import type { TemplateStore } from '../templateStore'
import { body } from './body'

export const templateRoutes = (templates: TemplateStore) =>
  new Hono()
    .get('/', async (c) => c.json(await templates.list()))
    .post('/', body(Template), async (c) => {
      await templates.add(c.req.valid('json'))
      return c.body(null, 204)
    })
    .delete('/:id', async (c) => {
      await templates.remove(c.req.param('id'))
      return c.body(null, 204)
    })

export const motionRoutes = (templates: TemplateStore) =>
  new Hono()
    .get('/', async (c) => c.json(await templates.motions()))
    .post('/', body(KeptMotion), async (c) => {
      await templates.add(c.req.valid('json'))
      return c.body(null, 204)
    })
    .delete('/:id', async (c) => {
      await templates.remove(c.req.param('id'))
      return c.body(null, 204)
    })
