import { launchBrowser, openPage } from './e2e/browser'
import { startTestServer } from './e2e/server'
const server = await startTestServer()
const browser = await launchBrowser()
const { page, errors } = await openPage(browser)
const wait = (ms: number) => new Promise(r=>setTimeout(r,ms))
await page.goto(server.url); await wait(2500)
await page.screenshot({ path: '/tmp/s1.png' as any })
await page.goto(server.url + '/puppet/marlo-puppet-1/bones'); await wait(4000)
const cam = async () => (await page.$eval('[data-testid=overlay]', e => (e as HTMLElement).dataset.camera!)).split(' ').map(Number)
const box = (await (await page.$('[data-testid=stage]'))!.boundingBox())!
const [z, cx, cy] = await cam() as [number, number, number]
const at = (x: number, y: number) => [box.x + x*z+cx, box.y + y*z+cy] as const
await page.mouse.click(...at(470,540)); await page.keyboard.press('5'); await wait(800)
await page.screenshot({ path: '/tmp/s2.png' as any })
await page.keyboard.press('4'); await page.mouse.click(...at(430,670)); await wait(500)
await page.screenshot({ path: '/tmp/s3.png' as any })
await page.goto(server.url + '/puppet/marlo-puppet-1/send'); await wait(2500)
await page.keyboard.down('Control'); await page.keyboard.press('k'); await page.keyboard.up('Control'); await wait(600); await page.keyboard.type('rest'); await wait(400)
await page.screenshot({ path: '/tmp/s4.png' as any })
console.log(errors)
await browser.close(); await server.stop()
