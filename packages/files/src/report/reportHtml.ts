import type { SpokenWords, Values, WordKey } from '@fennip/words';
import { wordsIn } from '@fennip/words';
import { escapedXml } from '../embed/escapedXml.ts';
import type { CountFigure } from './countFigure.ts';
import { STATE_GREYS, countFigure } from './countFigure.ts';
import type { ConditionReport, SmallPicture } from './report.ts';
import { placeLine, reportText } from './reportText.ts';

const image = (jpeg: Buffer, alt: string): string =>
  `<img alt="${escapedXml(alt)}" src="data:image/jpeg;base64,${jpeg.toString('base64')}">`;

function figureSvg({ width, height, bars, labels, legend }: CountFigure, { say }: SpokenWords): string {
  const texts = labels.map(({ text, x, y }) => `<text x="${x}" y="${y + 4}">${escapedXml(text)}</text>`);
  const keys = legend.map(
    ({ state, text, x }) =>
      `<rect x="${x}" y="3" width="10" height="10" fill="${STATE_GREYS[state]}" stroke="#555" stroke-width=".5"/>` +
      `<text x="${x + 14}" y="12">${escapedXml(text)}</text>`,
  );
  const rects = bars.map(
    (bar) =>
      `<rect x="${bar.x.toFixed(1)}" y="${bar.y.toFixed(1)}" width="${bar.width.toFixed(1)}" height="${bar.height.toFixed(1)}" fill="${STATE_GREYS[bar.state]}" stroke="#555" stroke-width=".5"/>`,
  );
  return `<svg viewBox="0 0 ${width} ${height}" role="img" aria-label="${escapedXml(say('report.alt.counts'))}">${keys.join('')}${rects.join('')}${texts.join('')}</svg>`;
}

/** Corner ticks around every fault; those that were left are drawn in dashes. */
function marksSvg({ faults }: ConditionReport, { width, height }: SmallPicture): string {
  const marks = faults
    .filter(({ state }) => state !== 'dismissed')
    .map(({ number, state, x, y, r, line, isClosed }) => {
      const [cx, cy, half] = [x * width, y * height, Math.max(6, r * width + 3)];
      const dash = state === 'mended' || state === 'lessened' ? '' : ' stroke-dasharray="3 2"';
      const at = (place: number): string => place.toFixed(1);
      const [[tagX, tagY]] = line ?? [[x + half / width, y - half / height]];
      const shape = line
        ? `<${isClosed ? 'polygon' : 'polyline'} points="${line.map(([px, py]) => `${at(px * width)},${at(py * height)}`).join(' ')}"`
        : `<rect x="${at(cx - half)}" y="${at(cy - half)}" width="${at(2 * half)}" height="${at(2 * half)}"`;
      return `${shape} class="under"/>${shape} class="over"${dash}/><text x="${at(tagX * width + 2)}" y="${at(tagY * height + 8)}">${number}</text>`;
    });
  return `<svg class="marks" viewBox="0 0 ${width} ${height}" aria-hidden="true">${marks.join('')}</svg>`;
}

const STYLE = `
@page { margin: 16mm; }
* { box-sizing: border-box; }
body { max-width: 180mm; margin: 12mm auto; color: #1c1c1c; font: 10.5pt/1.42 "Source Sans 3", "Helvetica Neue", Arial, sans-serif; }
h1 { margin: 0 0 3mm; font-size: 20pt; font-weight: 600; }
h2 { margin: 7mm 0 2mm; font-size: 12pt; font-weight: 600; break-after: avoid; }
dl { display: grid; grid-template-columns: 32mm 1fr; margin: 0; gap: .6mm 4mm; }
dt { color: #555; } dd { margin: 0; }
ul { margin: 0; padding-left: 5mm; }
figure { margin: 0; break-inside: avoid; }
figcaption { color: #555; font-size: 9pt; }
img { display: block; width: 100%; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 4mm; align-items: start; }
.map { position: relative; }
.map svg { position: absolute; inset: 0; width: 100%; height: 100%; }
.marks text { fill: #fff; stroke: #000; stroke-width: 2.5px; paint-order: stroke; font-size: 12px; }
.marks rect, .marks polyline, .marks polygon { fill: none; } .under { stroke: #000; stroke-width: 3px; } .over { stroke: #fff; stroke-width: 1.25px; }
.places { display: grid; grid-template-columns: 1fr 1fr; gap: 4mm; }
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 1mm; }
svg text { font: 11px "Source Sans 3", Arial, sans-serif; }
@media print { body { margin: 0; max-width: none; } }
`;

/** A report as one HTML file that needs no other: pictures, style and figures are in it. Prints on A4 and Letter. */
export function reportHtml(report: ConditionReport): string {
  const text = reportText(report);
  const words = wordsIn(report.language);
  const said = (key: WordKey, values?: Values): string => escapedXml(words.say(key, values));
  const facts = text.facts.map(
    ([name, value]) => `<dt>${escapedXml(name)}</dt><dd>${escapedXml(value)}</dd>`,
  );
  const list = (lines: readonly string[]): string =>
    `<ul>${lines.map((line) => `<li>${escapedXml(line)}</li>`).join('')}</ul>`;
  const methods = text.methods.map(
    ([name, does]) => `<dt>${escapedXml(name)}</dt><dd>${escapedXml(does)}</dd>`,
  );
  const places = report.places.map(
    (place) =>
      `<figure><div class="pair">${image(place.before, words.say('report.alt.before', { n: place.number }))}${image(place.after, words.say('report.alt.after', { n: place.number }))}</div><figcaption>${escapedXml(placeLine(place, words))}</figcaption></figure>`,
  );
  return `<!doctype html>
<html lang="${report.language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${escapedXml(`${text.title}: ${report.picture}`)}</title><style>${STYLE}</style></head><body>
<h1>${escapedXml(text.title)}</h1>
<dl>${facts.join('')}</dl>
<h2>${said('report.inShort')}</h2>
${list(text.summary)}
<p>${escapedXml(text.finish)}</p>
<div class="two"><figure>${image(report.before.jpeg, words.say('report.alt.cameIn'))}<figcaption>${said('report.cameIn')}</figcaption></figure>
<figure>${image(report.after.jpeg, words.say('report.alt.finished'))}<figcaption>${said('report.finished')}</figcaption></figure></div>
<h2>${said('report.found')}</h2>
${figureSvg(countFigure(report.account, 660, words), words)}
<h2>${said('report.where')}</h2>
<figure><div class="map">${image(report.before.jpeg, words.say('report.alt.map'))}${marksSvg(report, report.before)}</div>
<figcaption>${said('report.mapNote')}</figcaption></figure>
<h2>${said('report.done')}</h2>
<dl>${methods.join('') || `<dd>${said('report.noMend')}</dd>`}</dl>
<h2>${said('report.whatLeft')}</h2>
${list(text.left)}
${places.length > 0 ? `<h2>${said('report.beforeAfter')}</h2><div class="places">${places.join('')}</div>` : ''}
</body></html>
`;
}
