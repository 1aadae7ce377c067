import { wordsIn } from '@fennip/words';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { buffer } from 'node:stream/consumers';
import PDFDocument from 'pdfkit';
import { STATE_GREYS, countFigure } from './countFigure.ts';
import type { ConditionReport, ReportedFault, SmallPicture } from './report.ts';
import { placeLine, reportText } from './reportText.ts';

/** Papers that a report is laid out for. */
export type ReportPaper = 'A4' | 'LETTER';

/** All lengths in points of 1/72 inch. */
const MARGIN = 46;
const GAP = 12;
const TEXT = 10;
const SOFT = '#555555';
const INK = '#1c1c1c';

const fontFile = (weight: 400 | 600): Promise<Buffer> =>
  readFile(
    createRequire(import.meta.url).resolve(
      `@fontsource/source-sans-3/files/source-sans-3-latin-${weight}-normal.woff`,
    ),
  );

type Document = InstanceType<typeof PDFDocument>;

const widthOf = (doc: Document): number => doc.page.width - 2 * MARGIN;

/** Goes on to the next page where so much no longer fits on this one. */
function makeRoom(doc: Document, height: number): void {
  if (doc.y + height > doc.page.height - MARGIN) doc.addPage();
}

function heading(doc: Document, words: string, below: number): void {
  makeRoom(doc, 30 + below);
  doc.moveDown(0.9).font('bold').fontSize(12.5).fillColor(INK).text(words, MARGIN).moveDown(0.25);
  doc.font('plain').fontSize(TEXT);
}

function line(doc: Document, words: string): void {
  makeRoom(doc, 16);
  doc
    .font('plain')
    .fontSize(TEXT)
    .fillColor(INK)
    .text(words, MARGIN, doc.y, { width: widthOf(doc) });
}

/** A name in soft ink, and what is said of it beside it. */
function pair(doc: Document, name: string, value: string, room: number): void {
  const height = doc.fontSize(TEXT).heightOfString(value, { width: widthOf(doc) - room });
  makeRoom(doc, height);
  const { y } = doc;
  doc.fillColor(SOFT).text(name, MARGIN, y, { width: room - 6 });
  const below = doc.y;
  doc.fillColor(INK).text(value, MARGIN + room, y, { width: widthOf(doc) - room });
  doc.y = Math.max(below, doc.y) + 1;
}

function caption(doc: Document, words: string, x: number, y: number, width: number): void {
  doc.fontSize(8.5).fillColor(SOFT).text(words, x, y, { width, lineBreak: false, ellipsis: true });
  doc.fontSize(TEXT).fillColor(INK);
}

/** Both states of the picture side by side. */
function pictures(doc: Document, { before, after, language }: ConditionReport): void {
  const { say } = wordsIn(language);
  const width = (widthOf(doc) - GAP) / 2;
  const most = 250;
  const heightOf = (picture: SmallPicture): number =>
    Math.min(most, (width * picture.height) / picture.width);
  const height = Math.max(heightOf(before), heightOf(after));
  makeRoom(doc, height + 20);
  const { y } = doc;
  [before, after].forEach((picture, k) => {
    const x = MARGIN + k * (width + GAP);
    doc.image(picture.jpeg, x, y, { fit: [width, height] });
    caption(doc, say(k === 0 ? 'report.cameIn' : 'report.finished'), x, y + height + 3, width);
  });
  doc.y = y + height + 18;
}

function figure(doc: Document, report: ConditionReport): void {
  const { height, bars, labels, legend } = countFigure(
    report.account,
    widthOf(doc),
    wordsIn(report.language),
  );
  makeRoom(doc, height);
  const { y } = doc;
  doc.lineWidth(0.4).strokeColor('#555555').fontSize(9);
  for (const { state, text, x } of legend) {
    doc.rect(MARGIN + x, y + 2, 8, 8).fillAndStroke(STATE_GREYS[state], '#555555');
    doc.fillColor(INK).text(text, MARGIN + x + 12, y, { lineBreak: false });
  }
  for (const bar of bars)
    doc
      .rect(MARGIN + bar.x, y + bar.y, bar.width, bar.height)
      .fillAndStroke(STATE_GREYS[bar.state], '#555555');
  doc.fillColor(INK);
  for (const label of labels) doc.text(label.text, MARGIN + label.x, y + label.y - 6, { lineBreak: false });
  doc.y = y + height + 4;
}

/** A fault on the map: light over dark, so that it reads on any ground; dashes where it was left. */
function mark(
  doc: Document,
  { number, state, x, y, r, line, isClosed }: ReportedFault,
  on: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): void {
  const half = Math.max(2.5, r * on.width + 1.2);
  const [cx, cy] = [on.x + x * on.width, on.y + y * on.height];
  const points = line?.map(([px, py]): [number, number] => [on.x + px * on.width, on.y + py * on.height]);
  const trace = (): void => {
    if (!points) doc.rect(cx - half, cy - half, 2 * half, 2 * half);
    else if (isClosed) doc.polygon(...points);
    else points.forEach(([px, py], k) => (k === 0 ? doc.moveTo(px, py) : doc.lineTo(px, py)));
    doc.stroke();
  };
  doc.undash().lineWidth(1.5).strokeColor('#000000');
  trace();
  doc.lineWidth(0.6).strokeColor('#ffffff');
  if (state !== 'mended' && state !== 'lessened') doc.dash(1.8, { space: 1.2 });
  trace();
  doc.undash().fontSize(5);
  const [tagX, tagY] = points ? [points[0][0] + 1, points[0][1] - 3] : [cx + half + 0.5, cy - half - 1];
  doc.rect(tagX, tagY, doc.widthOfString(`${number}`) + 2, 6).fill('#000000');
  doc.fillColor('#ffffff').text(`${number}`, tagX + 1, tagY, { lineBreak: false });
}

function map(doc: Document, report: ConditionReport): void {
  const { before, faults } = report;
  const most = doc.page.height - 2 * MARGIN - 70;
  const scale = Math.min(widthOf(doc) / before.width, most / before.height);
  const [width, height] = [before.width * scale, before.height * scale];
  makeRoom(doc, height + 20);
  const { y } = doc;
  doc.image(before.jpeg, MARGIN, y, { width, height });
  doc.save().rect(MARGIN, y, width, height).clip();
  for (const fault of faults)
    if (fault.state !== 'dismissed') mark(doc, fault, { x: MARGIN, y, width, height });
  doc.restore();
  doc.fillColor(INK);
  caption(doc, wordsIn(report.language).say('report.mapNote'), MARGIN, y + height + 3, widthOf(doc));
  doc.y = y + height + 18;
}

function places(doc: Document, report: ConditionReport): void {
  const width = (widthOf(doc) - GAP) / 2;
  const side = (width - 3) / 2;
  for (let k = 0; k < report.places.length; k += 2) {
    makeRoom(doc, side + 18);
    const { y } = doc;
    report.places.slice(k, k + 2).forEach((place, i) => {
      const x = MARGIN + i * (width + GAP);
      doc.image(place.before, x, y, { width: side });
      doc.image(place.after, x + side + 3, y, { width: side });
      caption(doc, placeLine(place, wordsIn(report.language)), x, y + side + 2, width);
    });
    doc.y = y + side + 18;
  }
}

function numberPages(doc: Document, words: string): void {
  const { start, count } = doc.bufferedPageRange();
  for (let page = start; page < start + count; page++) {
    doc.switchToPage(page);
    // Below the margin, where text would else begin another page.
    doc.page.margins.bottom = 0;
    const y = doc.page.height - MARGIN + 14;
    caption(doc, words, MARGIN, y, widthOf(doc) - 60);
    doc.fontSize(8.5).fillColor(SOFT);
    doc.text(`${page + 1} / ${count}`, MARGIN, y, { width: widthOf(doc), align: 'right', lineBreak: false });
  }
}

/** A report as PDF, with the application's typeface in it. */
export async function reportPdf(report: ConditionReport, paper: ReportPaper): Promise<Buffer> {
  const text = reportText(report);
  const { say } = wordsIn(report.language);
  const doc = new PDFDocument({
    size: paper,
    margin: MARGIN,
    bufferPages: true,
    lang: report.language,
    info: {
      Title: `${text.title}: ${report.picture}`,
      Creator: 'Fennip',
      CreationDate: new Date(report.date),
    },
  });
  const whole = buffer(doc);
  const [plain, bold] = await Promise.all([fontFile(400), fontFile(600)]);
  doc.registerFont('plain', plain);
  doc.registerFont('bold', bold);
  doc.font('bold').fontSize(20).fillColor(INK).text(text.title, MARGIN, MARGIN).moveDown(0.2);
  doc.font('plain').fontSize(TEXT);
  for (const [name, value] of text.facts) pair(doc, name, value, 92);
  heading(doc, say('report.inShort'), 60);
  for (const words of text.summary) line(doc, words);
  line(doc, text.finish);
  doc.moveDown(0.6);
  pictures(doc, report);
  heading(doc, say('report.found'), 60);
  figure(doc, report);
  heading(doc, say('report.where'), 220);
  map(doc, report);
  heading(doc, say('report.done'), 40);
  for (const [name, does] of text.methods) pair(doc, name, does, 110);
  if (text.methods.length === 0) line(doc, say('report.noMend'));
  heading(doc, say('report.whatLeft'), 30);
  for (const words of text.left) line(doc, words);
  if (report.places.length > 0) {
    heading(doc, say('report.beforeAfter'), 140);
    places(doc, report);
  }
  numberPages(doc, `${report.job}: ${report.picture}`);
  doc.end();
  return whole;
}
