import { TestEnvironment } from 'jest-environment-node'

const FAILURES = ['test_fn_failure', 'hook_failure']
const PATIENCE = 5000 // ms, for a page that hangs

/** Node's, but where a test fails its error says what the open pages showed then: `openPages`, each with what tells of it. */
export default class extends TestEnvironment {
  async handleTestEvent({ name, error }) {
    if (!FAILURES.includes(name) || !(error instanceof this.global.Error)) return
    for (const tell of this.global.openPages?.values() ?? []) {
      const told = await Promise.race([tell(), new Promise((resolve) => setTimeout(resolve, PATIENCE, 'nothing'))])
      const { message } = error
      error.message = `${message}\n\nA page says:\n${told}\n`
      error.stack = error.stack.replace(message, () => error.message)
    }
  }
}
