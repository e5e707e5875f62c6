import { UserError } from '@/core/userError'
import { isDatabaseAway, pool } from '@/db/client'
import { clearAway } from '@/jobs/clearAway'

export async function gc({ dryRun = false, graceDays }: { dryRun?: boolean; graceDays?: number }) {
  if (!process.env.DATABASE_URL)
    throw new UserError(
      'This works on the database of a running application: set DATABASE_URL and YARN_STEP_DATA as it has them (see .env.example).',
    )
  try {
    const cleared = await clearAway({ dryRun, graceDays })
    if (!cleared) throw new UserError('It is being cleared away already. Try it again in a while.')
    return { dryRun, ...cleared }
  } catch (error) {
    if (!isDatabaseAway(error)) throw error
    throw new UserError(
      'The database does not answer. See that PostgreSQL runs and that DATABASE_URL names it; nothing was changed.',
      { cause: error },
    )
  } finally {
    await pool().end()
  }
}
