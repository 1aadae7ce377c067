/** Text as it may stand between the tags and in the quoted attributes of XML and HTML. */
export const escapedXml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
