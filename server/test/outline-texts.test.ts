import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { clockOf } from '@zephyrfield/core/time/minute';
import type { Found } from '@zephyrfield/core/outline/found';
import { readOutline } from '@zephyrfield/core/outline/read';
import { pageOfText } from '../src/outline/read-text';

// Whole outlines, as people write them: from the text that was handed out to what is found in it.

const TERM = { from: parseDate('2026-08-31'), to: parseDate('2026-12-18'), order: null } as const;

/** A row in a line: its day without the year, its last day, its hour, and its title; `~` before what only names a topic. */
const said = ({ day, lastDay, minute, title, isTopic, days }: Found) =>
  [
    isTopic ? '~' : '',
    day === null ? 'no day' : formatDate(day).slice(5),
    lastDay === null ? '' : `– ${formatDate(lastDay).slice(5)}`,
    days.length ? `×${days.length}` : '',
    minute === null ? '' : clockOf(minute),
    title,
  ]
    .filter(Boolean)
    .join(' ');
const read = (text: string) => readOutline(pageOfText(text, 2_000), TERM).found.map(said);

test('weeks at the beginning of lines, with what falls on their weekdays', () => {
  expect(
    read(`Letterpress workshop (Term 1: 7 September to 11 December 2026)

Week 1 (w/c 7 Sept)  Introduction, safety. Read ch. 1-2.
Week 2 (w/c 14 Sept) Setting type. Homework: setting exercise due Friday.
Week 3 (w/c 21 Sept) Proofing.
   - Tuesday: visit to the print museum, 13:30-16:00
   - Friday: proof sheet handed in, 4 p.m.
Week 4 (w/c 28 Sept) Ink. Quiz on Thursday at 9:15.
Week 6-7 (w/c 12 Oct)  Half-term, no workshop
Week 9 (w/c 2 Nov)   Poster due Monday 2 Nov; critique Thursday 5 Nov at 2pm in room 4.11
Week 14 (w/c 7 Dec)  Book project due by 12 noon on Thursday; exhibition 11 December, 18:00`),
  ).toEqual([
    '~ 09-07 Introduction, safety',
    '~ 09-07 Read ch. 1-2',
    '~ 09-14 Setting type',
    '09-18 Homework: setting exercise',
    '~ 09-21 Proofing',
    '09-22 13:30 Visit to the print museum',
    '09-25 16:00 Proof sheet',
    '~ 09-28 Ink',
    '10-01 09:15 Quiz',
    '10-12 – 10-23 Half-term, no workshop',
    '11-02 Poster',
    '11-05 14:00 Critique in room 4.11',
    '12-10 12:00 Book project',
    '12-11 18:00 Exhibition',
  ]);
});

test('weeks that are counted, past one that has no number', () => {
  expect(
    read(`Weeks start on Monday; week 1 begins 7 September 2026. Break: week of 19 October (not counted).

Wk 2: Experiment 1. Titration
Wk 3: Report 1 due Friday
Wk 7: Practical test Tue & Wed
Wk 10: Report 3 due Friday of week 10
Final practical: Thursday wk 12, 10-12`),
  ).toEqual([
    '10-19 – 10-23 Break: (not counted)',
    '~ 09-14 Experiment 1. Titration',
    '09-25 Report 1',
    '10-27 Practical test',
    '10-28 Practical test',
    '11-20 Report 3',
    '12-03 10:00 Final practical',
  ]);
});

test('months above days by their numbers, in columns as well', () => {
  expect(
    read(`Philosophy of maps

September
  10  first meeting
  17  reading response due
  24  no meeting
October
  1   essay proposal due
  22  midterm essay due, 5 pm
December
  3   last meeting; essay due at midnight`),
  ).toEqual([
    '09-10 First meeting',
    '09-17 Reading response',
    '09-24 No meeting',
    '10-01 Essay proposal',
    '10-22 17:00 Midterm essay',
    '12-03 Last meeting',
    '12-03 23:59 Essay',
  ]);
});

test('three columns without names: what a lesson is about, and what is due', () => {
  expect(
    read(`Aug 31   Syllabus
Sep 2    Vectors                       HW0 out
Sep 7    HARVEST DAY - no class
Sep 9    Forces                        HW0 due, HW1 out
Sep 23   EXAM 1 (chapters 1-4)
Oct 5    Sound                         HW3 due; project topics due
Oct 12-13  FALL BREAK
Dec 9    FINAL EXAM 1:30-3:30 pm

Late policy: 1/2 credit within 24 hours. Textbook 3rd edition, 2019. Office hours Tue/Thu 2-3.`),
  ).toEqual([
    '~ 08-31 Syllabus',
    '~ 09-02 Vectors',
    '09-07 HARVEST DAY - no class',
    '~ 09-09 Forces',
    '09-09 HW0',
    '09-23 EXAM 1 (chapters 1-4)',
    '~ 10-05 Sound',
    '10-05 HW3',
    '10-05 Project topics',
    '10-12 – 10-13 FALL BREAK',
    '12-09 13:30 FINAL EXAM',
  ]);
});

test('lists of dates and stages of work in sentences', () => {
  expect(
    read(`1) Response papers (5 of them): 11 Sept, 25 Sept, 9 Oct, 23 Oct and 6 Nov. Always by 6 p.m.
2) Slots for talks are on 29/9, 13/10 and 27/10.
3) Term paper: abstract 16 October; outline 30 October; first version 20 November; final version 11 December.
4) The seminar does not meet on 28 October and 4 November.`),
  ).toEqual([
    ...['09-11', '09-25', '10-09', '10-23', '11-06'].map((d) => `${d} Response papers (5 of them)`),
    ...['09-29', '10-13', '10-27'].map((d) => `${d} Slots for talks`),
    '10-16 Term paper: abstract',
    '10-30 Term paper: outline',
    '11-20 Term paper: first version',
    '12-11 Term paper: final version',
    '10-28 The seminar does not meet',
    '11-04 The seminar does not meet',
  ]);
});

test('a letter to families: days without a month, a day of a month by its number, shows at two hours', () => {
  expect(
    read(`Maths: times tables test on Thursday, 10th September. Worksheet 5 back by Monday 14th.
Swimming starts Tues 15th Sept and is every Tuesday until 20th Oct (not 13th Oct).
Lunch choices to be made by Mon 21st.
School photos Wed 7th and Thurs 8th Oct.
Non-uniform day: last Friday of October.
Cake sale on the second Friday in November, 3.15pm.
Shows: Friday 27 November 19:00, Saturday 28 November 14:00 and 19:00.`),
  ).toEqual([
    '09-10 Maths: times tables test',
    '09-14 Worksheet 5 back',
    '09-15 ×5 Swimming',
    '09-21 Lunch choices to be made',
    '10-07 School photos',
    '10-08 School photos',
    '10-30 Non-uniform day',
    '11-13 15:15 Cake sale',
    '11-27 19:00 Shows',
    '11-28 14:00 Shows',
    '11-28 19:00 Shows',
  ]);
});

test('an hour for all work of a part, every other week, and what stands in brackets behind a date', () => {
  expect(
    read(`PROBLEM SETS

Problem sets are released on Mondays and due the following Monday at 10 pm.
  Set 1 - due Sept 14
  Set 2 - due Sept 21

EVENINGS

Night viewing every other Tuesday from Sep 15 to Dec 8, 8 pm, on the roof (not on Nov 24).
Practical exam: 7 Dec (A), 8 Dec (B), both at 09:00
Final: between Dec 14 and Dec 18`),
  ).toEqual([
    '09-14 22:00 Set 1',
    '09-21 22:00 Set 2',
    '09-15 ×6 20:00 Night viewing, on the roof',
    '12-07 09:00 Practical exam (A)',
    '12-08 09:00 Practical exam (B)',
    '12-14 – 12-18 Final',
  ]);
});

test('an hour for all work is told above it; below a day it is of that day', () => {
  expect(
    read(`Monday 14 September
  - posters are due at 5 pm
  - bring tape`),
  ).toEqual(['09-14 17:00 Posters', '09-14 Bring tape']);
});

test('a list of few little words is read like any other, and where it ends is said', () => {
  const list = (n: number) =>
    Array.from({ length: n }, (_, i) => `${1 + (i % 28)} October: quiz ${i}`).join('\n');
  expect(readOutline(pageOfText(list(60), 9_000), TERM).notes).toEqual([]);
  const { found, notes } = readOutline(pageOfText(list(2_100), 9_000), TERM);
  expect([found.length, notes]).toEqual([2_000, ['Only the first 2000 of what was found are shown.']]);
});

test('meetings by their number, with what is due in a sentence of its own', () => {
  expect(
    read(`Meeting 1 (9/2): Introductions
Meeting 2 (9/9): Chapters 1–5. Response 1 due.
Meeting 3 (9/16): Chapters 6–11. Bring a pen.
Meeting 4 (9/23): Chapters 12–20. Quiz.
No meeting 10/14 (break)`),
  ).toEqual([
    '09-02 Meeting 1: Introductions',
    '09-09 Meeting 2: Chapters 1–5',
    '09-09 Response 1',
    '09-16 Meeting 3: Chapters 6–11',
    '09-16 Bring a pen',
    '09-23 Meeting 4: Chapters 12–20',
    '09-23 Quiz',
    '10-14 No meeting (break)',
  ]);
});

test('weekdays in two letters, and numbers that are no dates', () => {
  expect(
    read(`Robot lab: call x5/12 or 555-0109. Firmware v2.10.26 must be used.

Tu 9/1  Intro
Tu 9/8  Demand; PS 1 due
Th 9/17 Trade
Tu 9/22 Review; PS 2 due
Th 10/1 Firms; PS 3 due
Tu 10/13 No class (fall break)
Fr 12/11 FINAL EXAM 1-3 pm`),
  ).toEqual([
    '~ 09-01 Intro',
    '~ 09-08 Demand',
    '09-08 PS 1',
    '~ 09-17 Trade',
    '~ 09-22 Review',
    '09-22 PS 2',
    '~ 10-01 Firms',
    '10-01 PS 3',
    '10-13 No class (fall break)',
    '12-11 13:00 FINAL EXAM',
  ]);
});

test('days as many write them', () => {
  expect(
    read(`Task 1: 09-Oct-2026, 11:59PM
Task 2: 9th of November 2026 @ 5.30pm
Task 3: Nov. 23rd, 2026 (Mon) at 1700h
Task 4: 2026/12/04
Task 5: Friday the 11th of December, 12 noon
Kick-off: Tues., Sept. 8, 10 a.m. - 12 p.m., room 3.14
Test on all names: Tuesday 8 December, second lesson.`),
  ).toEqual([
    '10-09 23:59 Task 1',
    '11-09 17:30 Task 2',
    '11-23 17:00 Task 3',
    '12-04 Task 4',
    '12-11 12:00 Task 5',
    '09-08 10:00 Kick-off: room 3.14',
    '12-08 Test on all names: second lesson',
  ]);
});

test('weeks from one day to another in front of rows, and a week or a day for each', () => {
  expect(
    read(`1  31 Aug – 4 Sep   Welcome; sign contract by Thursday
2  7 – 11 Sep       Maps; map quiz Friday
4  21 – 25 Sep      Rivers II; river log due Wed 23
5  28 Sep – 2 Oct   Coast; field trip Tue 29 Sep (8:30)
7  12 – 16 Oct      HOLIDAY
8  19 – 23 Oct      Cities; report final due Friday 5pm`),
  ).toEqual([
    '~ 08-31 Welcome',
    '09-03 Sign contract',
    '~ 09-07 Maps',
    '09-11 Map quiz',
    '~ 09-21 Rivers II',
    '09-23 River log',
    '~ 09-28 Coast',
    '09-29 08:30 Field trip',
    '10-12 – 10-16 HOLIDAY',
    '~ 10-19 Cities',
    '10-23 17:00 Report final',
  ]);
});

test('sentences that go on with what they began', () => {
  expect(
    read(`Your first reading journal is due one week later, on September 10, and the second on October 1. Please hand in
your portfolio by Friday, November 20, at the latest, and remember that the exhibition opens on December 3 at 6 p.m.
We may move a class if it snows. In March 2027 the portfolios will be returned.`),
  ).toEqual([
    '09-10 Your first reading journal',
    '10-01 Your second reading journal',
    '11-20 Please hand in your portfolio',
    '12-03 18:00 The exhibition opens',
  ]);
});

test('a title with its dates, hours and rooms on lines of their own below it', () => {
  expect(
    read(`A1. Visual analysis 500 words (15%)
    Released: 14 Sep   Due: 28 Sep
A2. Gallery report 1,000 words (25%)
    Released: 28 Sep   Due: 26 Oct
A3. Slide test in class (20%)
    When: 5 Nov, 10:15, lecture theatre 3/1

Midterm exam
Date: October 28, 2026
Time: 6:30-8:30 pm
Room: Hall 3/05

Final report
Due: December 11, 2026 (noon)`),
  ).toEqual([
    '09-28 A1. Visual analysis 500 words (15%)',
    '10-26 A2. Gallery report 1,000 words (25%)',
    '11-05 10:15 A3. Slide test in class (20%)',
    '10-28 18:30 Midterm exam',
    '12-11 12:00 Final report',
  ]);
});

test('a plan for two groups, and what to read for which day', () => {
  expect(
    read(`date       group 1           group 2
21 Sep     titration         microscope
28 Sep     microscope        titration
12 Oct     holiday           holiday`),
  ).toEqual([
    '09-21 Group 1: titration',
    '09-21 Group 2: microscope',
    '09-28 Group 1: microscope',
    '09-28 Group 2: titration',
    '10-12 Group 1: holiday',
    '10-12 Group 2: holiday',
  ]);
  expect(
    read(`READING SCHEDULE

For Thursday, Sept. 3: read pp. 1-24
For Thursday, Sept. 10: read pp. 62-90; journal entry 1 due
Quiz 1 – Monday, Sept. 14 (pp. 1-90)
Late essays: -5 points a day, none after Oct. 16`),
  ).toEqual([
    '~ 09-03 Read pp. 1-24',
    '~ 09-10 Read pp. 62-90',
    '09-10 Journal entry 1',
    '09-14 Quiz 1 (pp. 1-90)',
  ]);
});

test('lessons by their numbers, and dates that one has to be done by', () => {
  expect(
    read(`Lesson 1 – 31 August: What is a volcano?
Lesson 2 – 7 September: Plates. Homework: label the diagram (for 14 September)
No lesson on 28 September (inset day)
Lesson 6 – 12 October: Test`),
  ).toEqual([
    '~ 08-31 Lesson 1: What is a volcano?',
    '~ 09-07 Lesson 2: Plates',
    '09-14 Homework: label the diagram',
    '09-28 No lesson (inset day)',
    '10-12 Lesson 6: Test',
  ]);
  expect(
    read(`by Fri 18/9      choose a person to interview
by Fri 2/10      ten questions, handed in
5/10 – 16/10     interviews (no lessons on Thursdays)
Fri 13/11        edited transcript due, 4 p.m.`).map((line) => line.replace('~ ', '')),
  ).toEqual([
    '09-18 Choose a person to interview',
    '10-02 Ten questions',
    '10-05 – 10-16 Interviews (no lessons on Thursdays)',
    '11-13 16:00 Edited transcript',
  ]);
});
