import type { CDPSession, ElementHandle, Page } from 'puppeteer-core'
import { until } from './application'
import { orName, waitForRest } from './browser'

/** Somebody who works with the application in one way only. Controls are known by how their names begin. */
export interface Hand {
  press(name: string): Promise<void>
  /** Puts files in where a control asks for them. */
  bring(name: string, ...files: string[]): Promise<void>
  /** Writes over what stands in a field. */
  write(field: string, words: string): Promise<void>
  /** Takes an entry of the list that belongs to the field which was written in last. */
  take(entry: string): Promise<void>
}

/** Goes by what is seen: a control must be there, in sight and not covered, and is pressed with the mouse. */
export function pointer(page: Page): Hand {
  const press = async (name: string, role = '') => {
    const control = await seen(page, name, role)
    const box = (await control.boundingBox())!
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
  }
  return {
    press,
    bring: (name, ...files) => chosen(page, files, () => press(name)),
    async write(field, words) {
      const control = await seen(page, field, '')
      await control.click()
      await writeOver(page, words)
    },
    take: (entry) => press(entry, '[role=option]'),
  }
}

const SEEN = 'button, a[href], label, summary, input, textarea, [role=option], [role=menuitem], [role=radio]'

async function seen(page: Page, name: string, role: string): Promise<ElementHandle<HTMLElement>> {
  await waitForRest(page)
  const waiting = page.waitForFunction(
    (wanted, among) => {
      const nameOf = (one: HTMLElement) =>
        one.getAttribute('aria-label') ?? one.textContent?.trim() ?? (one as HTMLInputElement).placeholder
      const control = [...document.querySelectorAll<HTMLElement>(among)].find(
        (one) =>
          nameOf(one).startsWith(wanted) && !(one as HTMLButtonElement).disabled && one.getClientRects().length > 0,
      )
      if (!control) return null
      control.scrollIntoView({ block: 'nearest' })
      const { x, y, width, height } = control.getBoundingClientRect()
      const hit = document.elementFromPoint(x + width / 2, y + height / 2)
      return hit && (control.contains(hit) || hit.contains(control)) ? control : null
    },
    { polling: 100 },
    name,
    role || SEEN,
  )
  const found = await orName(name, waiting)
  return found.asElement() as ElementHandle<HTMLElement>
}

/** Has no mouse: Tab goes from control to control, arrows within lists. */
export function keyboard(page: Page): Hand {
  const nameOfFocus = () =>
    page.evaluate(() => {
      const one = document.activeElement as HTMLInputElement | null
      return one?.getAttribute('aria-label') ?? one?.labels?.[0]?.textContent?.trim() ?? one?.textContent?.trim() ?? ''
    })
  const goTo = async (name: string) => {
    // As with eyes: nobody sets out for what is not there yet.
    await seen(page, name, '')
    for (let tabs = 0; tabs < 250; tabs++) {
      if ((await nameOfFocus()).startsWith(name)) return
      await page.keyboard.press('Tab')
    }
    throw new Error(`Tab does not lead to “${name}”.`)
  }
  const strike = async (name: string, key: 'Enter' | 'Space') => {
    await goTo(name)
    await page.keyboard.press(key)
  }
  return {
    press: (name) => strike(name, 'Enter'),
    bring: (name, ...files) => chosen(page, files, () => strike(name, 'Space')),
    async write(field, words) {
      await goTo(field)
      await writeOver(page, words)
    },
    async take(entry) {
      const isAt = () =>
        page.evaluate((wanted) => {
          const at = document.activeElement?.getAttribute('aria-activedescendant')
          return (at && document.getElementById(at)?.textContent?.trim().startsWith(wanted)) === true
        }, entry)
      await until(async () => {
        if (await isAt()) return true
        await page.keyboard.press('ArrowDown')
        return isAt()
      })
      await page.keyboard.press('Enter')
    },
  }
}

/** Knows what a screen reader knows: names and roles of the accessibility tree; acts on its nodes, and sees nothing. */
export async function listener(page: Page): Promise<Hand> {
  const tree = await page.createCDPSession()
  const act = async (name: string, roles: readonly string[], action: string) => {
    const node = await orName(name, namedNode(tree, name, roles))
    const { object } = await tree.send('DOM.resolveNode', { backendNodeId: node })
    const functionDeclaration = `function () { ${action} }`
    await tree.send('Runtime.callFunctionOn', { objectId: object.objectId!, functionDeclaration, userGesture: true })
  }
  const press = (name: string) => act(name, PRESSED, 'this.click()')
  return {
    press,
    bring: (name, ...files) => chosen(page, files, () => press(name)),
    async write(field, words) {
      await act(field, WRITTEN_IN, 'this.focus(); this.select()')
      await page.keyboard.type(words)
    },
    take: (entry) => act(entry, ['option'], 'this.click()'),
  }
}

const PRESSED = ['button', 'link', 'menuitem', 'radio', 'tab']
const WRITTEN_IN = ['textbox', 'combobox', 'searchbox']

/** Waits for a node that is not hidden from those who listen, and can be used. */
async function namedNode(tree: CDPSession, name: string, roles: readonly string[]): Promise<number> {
  let found: number | undefined
  await until(async () => {
    const { nodes } = await tree.send('Accessibility.getFullAXTree')
    found = nodes.find(
      ({ ignored, role, name: own, properties }) =>
        !ignored &&
        roles.includes(String(role?.value)) &&
        String(own?.value).startsWith(name) &&
        !properties?.some((one) => one.name === 'disabled' && one.value.value === true),
    )?.backendDOMNodeId
    return found !== undefined
  })
  return found!
}

async function writeOver(page: Page, words: string): Promise<void> {
  await page.keyboard.down('Control')
  await page.keyboard.press('a')
  await page.keyboard.up('Control')
  await page.keyboard.type(words)
}

async function chosen(page: Page, files: string[], ask: () => Promise<void>): Promise<void> {
  const [chooser] = await Promise.all([page.waitForFileChooser(), ask()])
  await chooser.accept(files)
}
