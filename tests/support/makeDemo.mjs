import { runStep, TEST_DEMO } from '../../scripts/application.mjs'

/** Once for all lanes, before any of them loads it. */
export default () => runStep('make-demo', { ...process.env, YARN_STEP_DEMO: TEST_DEMO })
