import { escapedXml } from './escapedXml.ts';

/** Namespaces of ISO 16684-1. */
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const MEDIA = 'http://ns.adobe.com/xap/1.0/mm/';
const EVENT = 'http://ns.adobe.com/xap/1.0/sType/ResourceEvent#';

/** What was done to a picture, and when. */
export interface HistoryNote {
  readonly words: string;
  /** ISO 8601. */
  readonly when: string;
}

const entryOf = ({ words, when }: HistoryNote): string =>
  `<rdf:li rdf:parseType="Resource" xmlns:rdf="${RDF}" xmlns:stEvt="${EVENT}"><stEvt:action>edited</stEvt:action>` +
  `<stEvt:when>${escapedXml(when)}</stEvt:when><stEvt:softwareAgent>Fennip</stEvt:softwareAgent>` +
  `<stEvt:changed>/</stEvt:changed><stEvt:parameters>${escapedXml(words)}</stEvt:parameters></rdf:li>`;

const emptyPacket = (content: string): string =>
  `<?xpacket begin="\u{feff}" id="W5M0MpCehiHzreSzNTczkc9d"?>\n` +
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}">${content}</rdf:RDF></x:xmpmeta>\n` +
  `<?xpacket end="w"?>`;

/**
 * Adds an event to the history of an XMP packet (xmpMM:History, ISO 16684-1, 8.5 and stEvt of part 2); a packet that
 * cannot be read is replaced. All that a packet says besides is kept.
 */
export function withHistory(packet: string | undefined, note: HistoryNote): string {
  const entry = entryOf(note);
  const added =
    `<rdf:Description rdf:about="" xmlns:xmpMM="${MEDIA}"><xmpMM:History><rdf:Seq>${entry}</rdf:Seq>` +
    `</xmpMM:History></rdf:Description>`;
  if (!packet?.includes('</rdf:RDF>')) return emptyPacket(added);
  // A history that is there goes on; a second one would be against the standard.
  const history = /(<xmpMM:History>\s*<rdf:Seq>[\s\S]*?)(<\/rdf:Seq>\s*<\/xmpMM:History>)/;
  if (history.test(packet)) return packet.replace(history, (_, before, end) => `${before}${entry}${end}`);
  return packet.replace('</rdf:RDF>', () => `${added}</rdf:RDF>`);
}
