import type { Document, Element } from '@xmldom/xmldom';
import { DOMParser, XMLSerializer, onErrorStopParsing } from '@xmldom/xmldom';

/** Namespaces of ISO 16684-1. */
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const MEDIA = 'http://ns.adobe.com/xap/1.0/mm/';
const EVENT = 'http://ns.adobe.com/xap/1.0/sType/ResourceEvent#';
const XMLNS = 'http://www.w3.org/2000/xmlns/';

/** What was done to a picture, and when. */
export interface HistoryNote {
  readonly words: string;
  /** ISO 8601. */
  readonly when: string;
}

const EMPTY_PACKET =
  `<?xpacket begin="\u{feff}" id="W5M0MpCehiHzreSzNTczkc9d"?>\n` +
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}"/></x:xmpmeta>\n` +
  `<?xpacket end="w"?>`;

/** The ends of lines as XML 1.0 takes them (section 2.11); a later version would lose other separators of lines. */
export const normalizeLineEndings = (text: string): string => text.replace(/\r\n?/g, '\n');

const parsed = (packet: string): Document =>
  new DOMParser({ onError: onErrorStopParsing, normalizeLineEndings }).parseFromString(packet, 'text/xml');

/** The description of resources in a packet; null where it cannot be read or holds none. */
function readable(packet: string | undefined): Element | null {
  if (packet === undefined) return null;
  try {
    return parsed(packet).getElementsByTagNameNS(RDF, 'RDF').item(0);
  } catch {
    return null;
  }
}

/** Adds an element with a name like `rdf:Seq` to another. @returns it */
function append(onto: Element, namespace: string, name: string, text = ''): Element {
  const document = onto.ownerDocument as Document;
  const element = document.createElementNS(namespace, name);
  if (text !== '') element.appendChild(document.createTextNode(text));
  onto.appendChild(element);
  return element;
}

/** The list of a packet's history: the one that is there, for a second one would be against the standard, or a new one. */
function historyIn(rdf: Element): Element {
  const history = rdf.getElementsByTagNameNS(MEDIA, 'History').item(0);
  const list = history?.getElementsByTagNameNS(RDF, 'Seq').item(0);
  if (list) return list;
  if (history) return append(history, RDF, 'rdf:Seq');
  const description = append(rdf, RDF, 'rdf:Description');
  description.setAttributeNS(RDF, 'rdf:about', '');
  description.setAttributeNS(XMLNS, 'xmlns:xmpMM', MEDIA);
  return append(append(description, MEDIA, 'xmpMM:History'), RDF, 'rdf:Seq');
}

/**
 * Adds an event to the history of an XMP packet (xmpMM:History, ISO 16684-1, 8.5 and stEvt of part 2); a packet that
 * cannot be read is replaced. All that a packet says besides is kept.
 */
export function withHistory(packet: string | undefined, note: HistoryNote): string {
  const rdf = readable(packet) ?? readable(EMPTY_PACKET);
  if (!rdf) throw new Error('the empty packet cannot be read');
  const entry = append(historyIn(rdf), RDF, 'rdf:li');
  entry.setAttributeNS(RDF, 'rdf:parseType', 'Resource');
  entry.setAttributeNS(XMLNS, 'xmlns:stEvt', EVENT);
  append(entry, EVENT, 'stEvt:action', 'edited');
  append(entry, EVENT, 'stEvt:when', note.when);
  append(entry, EVENT, 'stEvt:softwareAgent', 'Fennip');
  append(entry, EVENT, 'stEvt:changed', '/');
  append(entry, EVENT, 'stEvt:parameters', note.words);
  return new XMLSerializer().serializeToString(rdf.ownerDocument as Document);
}
