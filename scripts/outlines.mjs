// Makes the sample outlines of the demo (`demo/outlines`): one made-up course as a file of each kind that can be read,
// and a newer version of it. They are kept in the repository; this is run again when they are to change.
import { Buffer } from 'node:buffer';
import { chromium } from '@playwright/test';
import { createWriteStream } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import { root } from './lib/setup.mjs';

const folder = `${root}/demo/outlines`;

/** Day in the table, its date for the spreadsheet, what a lesson is about, and what is to be done. */
const ROWS = [
  ['Thu 10 Sep', '2026-09-10', 'Towers', 'Sketch of a tower, by 17:00, on paper'],
  ['Wed 16 Sep', '2026-09-16', '', 'Visit to the crane yard, 9:00, meet at the gate'],
  ['Thu 24 Sep', '2026-09-24', 'Pulleys', ''],
  ['Fri 9 Oct', '2026-10-09', 'Loads', 'Load tables, draft, 23:59, online'],
  ['Tue 12 Oct', '2026-10-12', '', 'Mid-term test, 10:00, chapters 1 to 4'],
  ['Fri 23 Oct', '2026-10-23', '', 'Load tables, final, 23:59, online'],
  ['26–30 Oct', '2026-10-26', '', 'Mid-term break, no classes'],
  ['Thu 5 Nov', '2026-11-05', 'Ropes', 'Rope test'],
  ['Fri 13 Nov', '2026-11-13', '', 'Report on a bridge of our town, 23:59, online'],
  ['Tue 17 Nov', '2026-11-17', '', 'Guest: a bridge inspector, 14:00'],
  ['Thu 19 Nov', '2026-11-19', 'Spans', 'Plan of the model bridge, by 17:00, on paper'],
  ['Fri 27 Nov', '2026-11-27', '', 'Knots practical test'],
  ['Fri 4 Dec', '2026-12-04', '', 'Model bridge judged, noon'],
  ['Thu 10 Dec', '2026-12-10', '', 'Final test, 9:30, hall'],
];
/** The newer version: two dates have moved, one thing is gone and one has come. */
const NEWER = ROWS.flatMap(([day, date, topic, what]) => {
  if (what.startsWith('Rope test')) return [['Tue 10 Nov', '2026-11-10', topic, what]];
  if (what.startsWith('Mid-term test')) return [['Tue 13 Oct', '2026-10-13', topic, what]];
  if (what.startsWith('Knots')) return [];
  if (what.startsWith('Final test'))
    return [
      ['Tue 8 Dec', '2026-12-08', '', 'Photographs of the model'],
      [day, date, topic, what],
    ];
  return [[day, date, topic, what]];
});
const TITLE = 'Cranes and Bridges';
const RULES =
  'Room 10/12, telephone 555-0134. Marks: 3/4 written, 1/4 practical. A late paper loses 1/10 for each day. You may work in pairs; May Harrow keeps the keys.';
const LOG = 'Every Thursday from 17 September to 3 December: lab log, not on 29 October.';
const LAST = 'Printed 14 August 2026.';

const escape = (text) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
const html = (rows) => `<h1>${TITLE}</h1><p>${RULES}</p><p>${LOG}</p>
<table><tr><th>Date</th><th>Topic</th><th>To do</th></tr>
${rows.map(([day, , topic, what]) => `<tr><td>${day}</td><td>${topic}</td><td>${escape(what)}</td></tr>`).join('\n')}
</table><p>${LAST}</p>`;

async function archive(name, files) {
  const zip = new yazl.ZipFile();
  const mtime = new Date('2026-08-14T10:12:00Z');
  for (const [path, text] of Object.entries(files)) zip.addBuffer(Buffer.from(text), path, { mtime });
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(`${folder}/${name}`));
}

const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const types = (...parts) =>
  `${XML}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${parts.map(([path, type]) => `<Override PartName="${path}" ContentType="application/vnd.openxmlformats-officedocument.${type}+xml"/>`).join('')}</Types>`;
const relations = (...all) =>
  `${XML}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${all.map(([type, target], n) => `<Relationship Id="rId${n + 1}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"/>`).join('')}</Relationships>`;

function document(name, rows) {
  const text = (words, style = '') =>
    `<w:p>${style && `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>`}<w:r><w:t xml:space="preserve">${escape(words)}</w:t></w:r></w:p>`;
  const cell = (words) => `<w:tc><w:tcPr><w:tcW w:w="3000" w:type="dxa"/></w:tcPr>${text(words)}</w:tc>`;
  const row = (...cells) => `<w:tr>${cells.map(cell).join('')}</w:tr>`;
  const table = `<w:tbl><w:tblPr><w:tblW w:w="9000" w:type="dxa"/></w:tblPr>${row('Date', 'Topic', 'To do')}${rows.map(([day, , topic, what]) => row(day, topic, what)).join('')}</w:tbl>`;
  return archive(name, {
    '[Content_Types].xml': types(
      ['/word/document.xml', 'wordprocessingml.document.main'],
      ['/word/styles.xml', 'wordprocessingml.styles'],
    ),
    '_rels/.rels': relations(['officeDocument', 'word/document.xml']),
    'word/_rels/document.xml.rels': relations(['styles', 'styles.xml']),
    'word/styles.xml': `${XML}<w:styles xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:style w:type="paragraph" w:styleId="Heading1"><w:name w:val="heading 1"/></w:style></w:styles>`,
    'word/document.xml': `${XML}<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${text(TITLE, 'Heading1')}${text(RULES)}${text(LOG)}${table}${text(LAST)}</w:body></w:document>`,
  });
}

/** Days as a spreadsheet counts them: from 30 December 1899. */
const serial = (date) => Math.round(Date.parse(date) / 86_400_000) + 25_569;

function spreadsheet(name, rows) {
  const text = (at, words) =>
    `<c r="${at}" t="inlineStr"><is><t xml:space="preserve">${escape(words)}</t></is></c>`;
  const row = (n, cells) => `<row r="${n}">${cells.join('')}</row>`;
  // A span of days has no number of its own.
  const when = (n, [day, date]) =>
    day.includes('–') ? text(`A${n}`, '26/10–30/10') : `<c r="A${n}" s="1"><v>${serial(date)}</v></c>`;
  const data = rows.map((each, i) =>
    row(i + 4, [when(i + 4, each), text(`B${i + 4}`, each[2]), text(`C${i + 4}`, each[3])]),
  );
  const sheet = 'spreadsheetml.';
  return archive(name, {
    '[Content_Types].xml': types(
      ['/xl/workbook.xml', `${sheet}sheet.main`],
      ['/xl/worksheets/sheet1.xml', `${sheet}worksheet`],
      ['/xl/styles.xml', `${sheet}styles`],
    ),
    '_rels/.rels': relations(['officeDocument', 'xl/workbook.xml']),
    'xl/_rels/workbook.xml.rels': relations(['worksheet', 'worksheets/sheet1.xml'], ['styles', 'styles.xml']),
    'xl/workbook.xml': `${XML}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Plan" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    'xl/styles.xml': `${XML}<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><fonts count="1"><font/></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    'xl/worksheets/sheet1.xml': `${XML}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${row(1, [text('A1', TITLE), text('B1', 'room 10/12')])}${row(3, [text('A3', 'Date'), text('B3', 'Topic'), text('C3', 'To do')])}${data.join('')}</sheetData></worksheet>`,
  });
}

const quoted = (cell) => (/[",]/.test(cell) ? `"${cell}"` : cell);
const lines = (rows) =>
  rows
    .filter(([, , , what]) => what)
    .map(([day, , , what]) => `  ${what} ${'.'.repeat(Math.max(3, 52 - what.length))} ${day}`);

await mkdir(folder, { recursive: true });
const name = 'cranes-and-bridges';
await writeFile(
  `${folder}/${name}.txt`,
  [TITLE.toUpperCase(), '', RULES, '', LOG, '', 'To do', ...lines(ROWS), '', LAST, ''].join('\n'),
);
await writeFile(
  `${folder}/${name}.md`,
  [
    `# ${TITLE}`,
    '',
    RULES,
    '',
    `* ${LOG}`,
    '',
    '| Date | Topic | To do |',
    '|---|---|---|',
    ...ROWS.map(([day, , topic, what]) => `| ${day} | ${topic} | ${what} |`),
    '',
    LAST,
    '',
  ].join('\n'),
);
await writeFile(`${folder}/${name}.html`, html(ROWS));
await writeFile(
  `${folder}/${name}.csv`,
  ['Date,Topic,To do', ...ROWS.map(([day, , topic, what]) => [day, topic, what].map(quoted).join(','))].join(
    '\n',
  ) + '\n',
);
await writeFile(
  `${folder}/${name}.eml`,
  [
    'From: May Harrow <harrow@skerrow.example>',
    'To: Class <class@skerrow.example>',
    `Subject: ${TITLE}: what is due`,
    'Date: Fri, 14 Aug 2026 10:12:00 +0100',
    'Content-Type: text/plain; charset=utf-8',
    '',
    'Dear all,',
    '',
    RULES,
    '',
    LOG,
    '',
    ...ROWS.filter(([, , , what]) => what).map(([day, , , what]) => `- ${day}: ${what}`),
    '',
    'See you in the yard,',
    'May Harrow',
    '',
  ].join('\r\n'),
);
await document(`${name}.docx`, ROWS);
await document(`${name}-2.docx`, NEWER);
await spreadsheet(`${name}.xlsx`, ROWS);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage();
await page.setContent(
  `<style>body{font:11pt sans-serif}table{border-collapse:collapse}td,th{border:1px solid;padding:4px 8px;text-align:left}</style>${html(ROWS)}`,
);
await page.pdf({
  path: `${folder}/${name}.pdf`,
  format: 'A4',
  margin: { top: '20mm', left: '20mm', right: '20mm', bottom: '20mm' },
});
await browser.close();
console.log(`made in ${folder}`);
