import { asXml } from '@/core/formats/xmlText'

/** What tells a course site what is in a package. */

export interface Packaged {
  /** A name of its own among all packages: letters, digits and hyphens. */
  id: string
  title: string
  language: string
  files: readonly string[]
}

const START = 'index.html'

/** SCORM 1.2: Content Aggregation Model, one organisation with one item. */
export const scorm12Manifest = (one: Packaged): string =>
  scormManifest(one, {
    version: '1.2',
    schemas: [
      'xmlns="http://www.imsproject.org/xsd/imscp_rootv1p1p2"',
      'xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_rootv1p2"',
    ],
    type: 'adlcp:scormtype="sco"',
  })

/** SCORM 2004, 4th edition. */
export const scorm2004Manifest = (one: Packaged): string =>
  scormManifest(one, {
    version: '2004 4th Edition',
    schemas: ['xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"', 'xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_v1p3"'],
    type: 'adlcp:scormType="sco"',
  })

function scormManifest(
  { id, title, files }: Packaged,
  { version, schemas, type }: { version: string; schemas: string[]; type: string },
): string {
  return `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="${id}" version="1" ${schemas.join(' ')}>
  <metadata>
    <schema>ADL SCORM</schema>
    <schemaversion>${version}</schemaversion>
  </metadata>
  <organizations default="course">
    <organization identifier="course">
      <title>${asXml(title)}</title>
      <item identifier="item" identifierref="lesson">
        <title>${asXml(title)}</title>
      </item>
    </organization>
  </organizations>
  <resources>
    <resource identifier="lesson" type="webcontent" ${type} href="${START}">
${files.map((file) => `      <file href="${asXml(file)}"/>`).join('\n')}
    </resource>
  </resources>
</manifest>
`
}

/** cmi5: a course structure with one assignable unit, which is done when it is completed. */
export function cmi5Structure({ id, title, language }: Packaged): string {
  const text = (words: string) => `<langstring lang="${asXml(language)}">${asXml(words)}</langstring>`
  return `<?xml version="1.0" encoding="UTF-8"?>
<courseStructure xmlns="https://w3id.org/xapi/profiles/cmi5/v1/CourseStructure.xsd">
  <course id="urn:lesson:${id}">
    <title>${text(title)}</title>
    <description>${text(title)}</description>
  </course>
  <au id="urn:lesson:${id}:video" launchMethod="AnyWindow" moveOn="Completed">
    <title>${text(title)}</title>
    <description>${text(title)}</description>
    <url>${START}</url>
  </au>
</courseStructure>
`
}
