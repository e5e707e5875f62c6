import { OUTPUTS, PACKAGE_STANDARDS, type PackageStandard } from '@/core/delivery/outputs'
import { UserError } from '@/core/userError'
import { makeOutput } from '@/media/delivery/makeOutput'
import { assertCanBeMade } from '@/media/lessonMedia'
import { showProgress } from '../progress'
import { withArchive } from '../workspace'

/** Makes a zip that a course site takes in. */
export function makePackage(
  archive: string,
  { out, standard, language }: { out: string; standard: string; language?: string },
) {
  const isKnown = (name: string): name is PackageStandard => PACKAGE_STANDARDS.some((one) => one === name)
  if (!isKnown(standard))
    throw new UserError(`There is no package for "${standard}". Choose one of ${PACKAGE_STANDARDS.join(', ')}.`)
  if (!out.toLowerCase().endsWith('.zip'))
    throw new UserError(`A package is a zip: let its name end in .zip, not ${out}.`)
  return withArchive(archive, language, async ({ lesson, store, assets, sounds }) => {
    await assertCanBeMade(lesson, store)
    return makeOutput({ lesson, store, sounds, assets }, OUTPUTS[`package-${standard}`], out, {
      onProgress: showProgress(),
    })
  })
}
