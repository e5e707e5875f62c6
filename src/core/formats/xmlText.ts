/** Text as it stands in XML and HTML, in elements and in attributes. */
export const asXml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
