/** The interface as a person uses it: what is seen, clicked, dragged and typed. */
import type { ElementHandle, Page } from 'puppeteer-core'
import type { Puppet } from '@marionette/core/puppet/schema'

export interface Spot {
  readonly x: number
  readonly y: number
}

export class Editor {
  constructor(
    readonly page: Page,
    readonly url: string,
  ) {}

  /** Opens a puppet at a bench and waits until it is drawn. */
  async open(id: string, bench = 'parts'): Promise<void> {
    await this.page.goto(`${this.url}/puppet/${id}/${bench}`)
    await this.drawn()
  }

  async drawn(): Promise<void> {
    await this.page.waitForSelector('[data-testid=art][data-drawn]')
  }

  /** Waits until the stage shows the document as it is, in full sharpness: one in motion may be coarse. */
  async sharp(): Promise<void> {
    await this.page.waitForSelector('[data-testid=art][data-picture=sharp]')
  }

  async bench(name: string): Promise<void> {
    await (await this.page.waitForSelector(`nav[aria-label=Benches] ::-p-text(${name})`))!.click()
    await this.page.waitForSelector(`a[aria-current=page] ::-p-text(${name})`)
    await this.framed()
  }

  /** Waits for the pictures in which the view makes room for the bar of a tool. */
  private async framed(): Promise<void> {
    await this.page.evaluate(async () => {
      for (let picture = 0; picture < 3; picture++) await new Promise(requestAnimationFrame)
    })
  }

  async tool(name: string): Promise<void> {
    await this.page.click(`[role=toolbar] [aria-label="${name}"]`)
    await this.page.waitForSelector(`[role=toolbar] [aria-label="${name}"][aria-pressed=true]`)
    await this.framed()
  }

  /** Where a spot of the canvas is on the page. */
  async at(spot: Spot): Promise<Spot> {
    const [zoom, x, y, left, top] = await this.page.$eval('[data-testid=overlay]', (e) => {
      const box = e.getBoundingClientRect()
      return [...(e as HTMLElement).dataset['camera']!.split(' ').map(Number), box.left, box.top]
    })
    return { x: left! + spot.x * zoom! + x!, y: top! + spot.y * zoom! + y! }
  }

  /** The spot of the canvas that lies under a whole pixel of the page. */
  async under(pixel: Spot): Promise<Spot> {
    const zero = await this.at({ x: 0, y: 0 })
    const one = await this.at({ x: 1, y: 1 })
    return { x: (pixel.x - zero.x) / (one.x - zero.x), y: (pixel.y - zero.y) / (one.y - zero.y) }
  }

  async click(spot: Spot): Promise<void> {
    const { x, y } = await this.at(spot)
    await this.page.mouse.click(x, y)
  }

  /** Presses at one spot of the canvas, moves to another in steps and releases. */
  async drag(from: Spot, to: Spot, options: { release?: boolean } = {}): Promise<void> {
    const a = await this.at(from)
    const b = await this.at(to)
    await this.page.mouse.move(a.x, a.y)
    await this.page.mouse.down()
    for (let i = 1; i <= 5; i++) await this.page.mouse.move(a.x + ((b.x - a.x) * i) / 5, a.y + ((b.y - a.y) * i) / 5)
    if (options.release ?? true) await this.page.mouse.up()
  }

  async key(...keys: string[]): Promise<void> {
    for (const key of keys.slice(0, -1)) await this.page.keyboard.down(key as never)
    await this.page.keyboard.press(keys.at(-1) as never)
    for (const key of keys.slice(0, -1).reverse()) await this.page.keyboard.up(key as never)
  }

  /** Saves at once and waits until the server has confirmed everything. */
  async saved(): Promise<void> {
    await this.page.evaluate(() =>
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 's', code: 'KeyS', ctrlKey: true, bubbles: true })),
    )
    await this.page.waitForSelector('[data-testid=save-state][data-state=saved]', { timeout: 30_000 })
  }

  /** The puppet as the server has it, once everything is saved. */
  async document(): Promise<Puppet> {
    await this.saved()
    const id = new URL(this.page.url()).pathname.split('/')[2]!
    const answer = await fetch(`${this.url}/api/puppets/${id}`)
    return ((await answer.json()) as { puppet: Puppet }).puppet
  }

  /** Changes that can be undone, newest last, from the history list. */
  async history(): Promise<string[]> {
    await this.page.click('[aria-label=History]')
    await this.page.waitForSelector('[role=dialog] ol')
    const labels = await this.page.$$eval('[role=dialog] ol button span:first-of-type', (all) => all.map((e) => e.textContent ?? ''))
    await this.page.keyboard.press('Escape')
    await this.page.waitForSelector('[role=dialog]', { hidden: true })
    return labels.reverse()
  }

  /** Walks to the beginning (0) or to any line of the history list. */
  async walkTo(done: number): Promise<void> {
    await this.page.click('[aria-label=History]')
    await this.page.waitForSelector('[role=dialog] ol')
    const lines = await this.page.$$('[role=dialog] ol button')
    await lines[lines.length - 1 - done]!.click()
    await this.page.keyboard.press('Escape')
    await this.page.waitForSelector('[role=dialog]', { hidden: true })
  }

  row(name: string): Promise<ElementHandle<Element>> {
    return this.page.waitForSelector(`[role=treeitem][aria-label="${name}"]`) as Promise<ElementHandle<Element>>
  }

  /** Names of the rows that the roster shows, top to bottom. */
  rows(): Promise<string[]> {
    return this.page.$$eval('[role=treeitem]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''))
  }

  /** Drags a row of the roster onto another: its upper edge, middle or lower edge. */
  async dragRow(name: string, onto: string, share: number): Promise<void> {
    const from = (await (await this.row(name)).boundingBox())!
    const to = (await (await this.row(onto)).boundingBox())!
    await this.page.mouse.move(from.x + 80, from.y + from.height / 2)
    await this.page.mouse.down()
    await this.page.mouse.move(from.x + 90, from.y + from.height / 2 + 8, { steps: 3 })
    await this.page.mouse.move(to.x + 90, to.y + to.height * share, { steps: 6 })
    await this.page.waitForSelector(`[role=treeitem][aria-label="${onto}"][data-drop]`)
    await this.page.mouse.up()
  }

  /** Types a number into a field of the details. */
  async type(label: string, value: string): Promise<void> {
    const field = (await this.page.waitForSelector(`input[aria-label="${label}"]`))!
    await field.click({ count: 3 })
    await field.type(value)
    await this.page.keyboard.press('Enter')
  }

  /** Chooses from a drop-down list by the words that it shows. */
  async choose(label: string, option: string): Promise<void> {
    await (await this.page.waitForSelector(`[role=combobox][aria-label="${label}"]`))!.click()
    const found = await this.page.waitForFunction(
      (words) => [...document.querySelectorAll('[role=option]')].find((e) => e.textContent === words) ?? null,
      {},
      option,
    )
    await (found as ElementHandle<Element>).click()
    await this.page.waitForSelector('[role=listbox]', { hidden: true })
  }

  /** Finds a command in the search and runs it. */
  async command(words: string): Promise<void> {
    await this.key('Control', 'k')
    await (await this.page.waitForSelector('[role=dialog] input'))!.type(words)
    await this.page.waitForSelector(`[role=dialog] [aria-selected=true] ::-p-text(${words})`)
    await this.page.keyboard.press('Enter')
  }

  async button(name: string): Promise<void> {
    await (await this.page.waitForSelector(`button::-p-text(${name})`))!.click()
  }
}

/** Drops files onto the page, or onto something on it, as a person drags them from a folder. */
export const dropFiles = (
  page: Page,
  files: readonly { name: string; text: string }[],
  onto = 'main, [data-testid=stage-view]',
): Promise<void> =>
  page.evaluate(
    (list, selector) => {
      const data = new DataTransfer()
      for (const { name, text } of list) data.items.add(new File([text], name))
      const target = document.querySelector(selector)!
      for (const type of ['dragenter', 'dragover', 'drop'])
        target.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }))
    },
    files as { name: string; text: string }[],
    onto,
  )
