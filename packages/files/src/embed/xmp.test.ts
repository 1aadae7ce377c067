import { DOMParser } from '@xmldom/xmldom';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalizeLineEndings, withHistory } from './xmp.ts';

const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const MEDIA = 'http://ns.adobe.com/xap/1.0/mm/';
const EVENT = 'http://ns.adobe.com/xap/1.0/sType/ResourceEvent#';
const when = '2026-11-01T10:00:00Z';

/** What a packet's history says was done, read as XML. */
function doneIn(packet: string): string[] {
  const document = new DOMParser({ normalizeLineEndings }).parseFromString(packet, 'text/xml');
  const histories = document.getElementsByTagNameNS(MEDIA, 'History');
  expect(histories.length).toBe(1);
  const entries = histories.item(0)?.getElementsByTagNameNS(EVENT, 'parameters');
  return Array.from({ length: entries?.length ?? 0 }, (_, k) => entries?.item(k)?.textContent ?? '');
}

// Of what XML 1.0 can hold at all (its section 2.2).
const words = fc
  .string({ minLength: 1, maxLength: 30, unit: 'grapheme' })
  .filter((text) => /^[\u0020-\ud7ff\ue000-\ufffd]+$/.test(text));

describe('the history in an XMP packet', () => {
  it('holds every note in the order they were made, whatever they say', () => {
    fc.assert(
      fc.property(fc.array(words, { minLength: 1, maxLength: 5 }), (notes) => {
        let packet: string | undefined;
        for (const note of notes) packet = withHistory(packet, { words: note, when });
        expect(doneIn(packet ?? '')).toEqual(notes);
      }),
    );
  });

  it('keeps separators of lines and paragraphs that are no ends of lines', () => {
    const note = 'one\u2028two\u2029three\u0085four';
    expect(doneIn(withHistory(withHistory(undefined, { words: note, when }), { words: 'x', when }))[0]).toBe(
      note,
    );
  });

  it('goes on under whatever prefix another program gave it, and leaves the rest as it is', () => {
    const packet =
      `<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/">` +
      `<r:RDF xmlns:r="${RDF}"><r:Description r:about="" xmlns:m="${MEDIA}" xmlns:e="${EVENT}"` +
      ` xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title><r:Alt><r:li xml:lang="x-default">Mill &amp; weir</r:li>` +
      `</r:Alt></dc:title><m:History><r:Seq><r:li r:parseType="Resource"><e:parameters>scanned</e:parameters></r:li>` +
      `</r:Seq></m:History></r:Description></r:RDF></x:xmpmeta><?xpacket end="w"?>`;
    const after = withHistory(packet, { words: 'mended', when });
    expect(doneIn(after)).toEqual(['scanned', 'mended']);
    expect(after).toContain('Mill &amp; weir');
    expect(after).toContain('<?xpacket end="w"?>');
  });

  it('is begun anew where a packet cannot be read', () => {
    for (const packet of ['', 'no XML', '<x:xmpmeta><rdf:RDF></x:xmpmeta>', '<a/>'])
      expect(doneIn(withHistory(packet, { words: 'mended', when }))).toEqual(['mended']);
  });
});
