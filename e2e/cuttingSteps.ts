/** Steps at the cut tool that several suites take. */
import type { Editor, Spot } from './editor'

/** Draws a lasso around spots of the canvas in one go. */
export async function lasso(editor: Editor, ...spots: Spot[]): Promise<void> {
  const { page } = editor
  const at = await Promise.all(spots.map((s) => editor.at(s)))
  await page.mouse.move(at[0]!.x, at[0]!.y)
  await page.mouse.down()
  for (const p of [...at.slice(1), at[0]!]) await page.mouse.move(p.x, p.y, { steps: 4 })
  await page.mouse.up()
  await page.waitForSelector('[data-testid=cut-area]')
}

/** Sends what is selected to a new part. */
export async function sendToNew(editor: Editor, name: string, keep: boolean): Promise<void> {
  const { page } = editor
  const box = (await page.waitForSelector('[aria-label=Cutting] [role=checkbox]'))!
  if ((await box.evaluate((e) => e.ariaChecked === 'true')) !== keep) await box.click()
  await editor.choose('Send to', 'New part')
  const field = (await page.waitForSelector('[aria-label="Name of the piece"]'))!
  await field.click({ count: 3 })
  await field.type(name)
  await page.keyboard.press('Enter')
  await editor.row(name)
}
